import { pageActor } from '@/app/pageActor';
import { SignaturesPage } from '@/ui/signoff/SignaturesPage';

export const metadata = { title: 'Signatures' };

/** The signatures that wait for somebody, and those they asked for. */
export default async function Signatures() {
  await pageActor('/signatures');
  return <SignaturesPage />;
}
