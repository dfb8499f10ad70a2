import { pageActor } from '@/app/pageActor';
import { Tray } from '@/ui/documents/Tray';

export const metadata = { title: 'Disposal tray' };

export default async function TrayPage() {
  await pageActor('/tray');
  return <Tray />;
}
