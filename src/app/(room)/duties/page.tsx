import type { Metadata } from 'next';
import { pageActor } from '@/app/pageActor';
import { DutiesPage } from '@/ui/duties/DutiesPage';

export const metadata: Metadata = { title: 'Duties' };

/** What papers are owed: reviews, and how long they are kept. */
export default async function Duties() {
  await pageActor('/duties');
  return <DutiesPage />;
}
