import { pageActor } from '@/app/pageActor';
import { ExportsPage } from '@/ui/exports/ExportsPage';

export const metadata = { title: 'Exports' };

/** The archives that the person asked for. */
export default async function Exports() {
  await pageActor('/exports');
  return <ExportsPage />;
}
