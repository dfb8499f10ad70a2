import { pageActor } from '@/app/pageActor';
import { Desk } from '@/ui/desk/Desk';

export const metadata = { title: 'My desk' };

export default async function DeskPage() {
  await pageActor('/desk');
  return <Desk />;
}
