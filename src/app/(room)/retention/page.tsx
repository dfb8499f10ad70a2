import { notFound } from 'next/navigation';
import { pageActor } from '@/app/pageActor';
import { RetentionPage } from '@/ui/retention/RetentionPage';

export const metadata = { title: 'Retention' };

/** How long papers are kept; for keepers. */
export default async function Retention() {
  const actor = await pageActor('/retention');
  if (!actor.keeper) notFound();
  return <RetentionPage />;
}
