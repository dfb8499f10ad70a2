import { notFound } from 'next/navigation';
import { pageActor } from '@/app/pageActor';
import { PeoplePage } from '@/ui/people/PeoplePage';

export const metadata = { title: 'People and groups' };

export default async function People() {
  const actor = await pageActor('/people');
  if (!actor.keeper) notFound();
  return <PeoplePage />;
}
