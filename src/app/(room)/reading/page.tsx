import { notFound } from 'next/navigation';
import { pageActor } from '@/app/pageActor';
import { ReadingPage } from '@/ui/reading/ReadingPage';

export const metadata = { title: 'Reading' };

/** How reading the library's papers stands, for its keepers. */
export default async function Reading() {
  const actor = await pageActor('/reading');
  if (!actor.keeper) notFound();
  return <ReadingPage />;
}
