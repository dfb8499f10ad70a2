import { notFound } from 'next/navigation';
import { pageActor } from '@/app/pageActor';
import { HealthPage } from '@/ui/health/HealthPage';

export const metadata = { title: 'Health' };

/** What in the library wants a keeper's hand. */
export default async function Health() {
  const actor = await pageActor('/health');
  if (!actor.keeper) notFound();
  return <HealthPage />;
}
