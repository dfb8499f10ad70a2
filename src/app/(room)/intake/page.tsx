import { pageActor } from '@/app/pageActor';
import { IntakePage } from '@/ui/intake/IntakePage';

export const metadata = { title: 'Intake' };

/** What has arrived and waits to be checked. */
export default async function Intake() {
  await pageActor('/intake');
  return <IntakePage />;
}
