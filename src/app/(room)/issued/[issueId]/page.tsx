import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { readPack } from '@/server/packs/reading';
import { IssuedPage } from '@/ui/packs/IssuedPage';

interface Props {
  readonly params: Promise<{ issueId: string }>;
}

export const metadata = { title: 'Pack' };

/** An issue of a pack, as whoever opens it may read it. */
export default async function Issued({ params }: Props) {
  const { issueId: raw } = await params;
  const actor = await pageActor(`/issued/${raw}`);
  const issueId = pageId(raw);
  return <IssuedPage issueId={issueId} read={await orNotFound(readPack(actor, { issueId }))} />;
}
