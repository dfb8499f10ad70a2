import { notFound } from 'next/navigation';
import { pageActor } from '@/app/pageActor';
import { ListsPage } from '@/ui/columns/ListsPage';

export const metadata = { title: 'Controlled lists' };

export default async function Lists() {
  const actor = await pageActor('/lists');
  if (!actor.keeper) notFound();
  return <ListsPage />;
}
