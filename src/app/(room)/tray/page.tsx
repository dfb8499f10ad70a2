import { pageActor } from '@/app/pageActor';
import { Tray } from '@/ui/disposal/Tray';

export const metadata = { title: 'Disposal tray' };

export default async function TrayPage() {
  await pageActor('/tray');
  return <Tray />;
}
