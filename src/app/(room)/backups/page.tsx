import { notFound } from 'next/navigation';
import { pageActor } from '@/app/pageActor';
import { BackupsPage } from '@/ui/library/BackupsPage';

export const metadata = { title: 'Backups' };

/** The backups that were made, for the library's keepers. */
export default async function Backups() {
  const actor = await pageActor('/backups');
  if (!actor.keeper) notFound();
  return <BackupsPage />;
}
