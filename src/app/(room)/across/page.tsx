import { pageActor } from '@/app/pageActor';
import { AcrossPage } from '@/ui/across/AcrossPage';

export const metadata = { title: 'Across dossiers' };

/** Papers across series and dossiers, chosen by ticks in a tree. */
export default async function Across() {
  await pageActor('/across');
  return <AcrossPage />;
}
