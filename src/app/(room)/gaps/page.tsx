import { pageActor } from '@/app/pageActor';
import { GapsPage } from '@/ui/expected/GapsPage';

export const metadata = { title: 'Gaps' };

/** All expected papers that are overdue. */
export default async function Gaps() {
  await pageActor('/gaps');
  return <GapsPage />;
}
