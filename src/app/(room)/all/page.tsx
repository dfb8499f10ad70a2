import type { Metadata } from 'next';
import { pageActor } from '@/app/pageActor';
import { AllPapers } from '@/ui/views/AllPapers';

export const metadata: Metadata = { title: 'All papers' };

export default async function AllPapersPage() {
  await pageActor('/all');
  return <AllPapers />;
}
