import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { packSheet } from '@/server/packs/read';
import { PackPage } from '@/ui/packs/PackPage';

interface Props {
  readonly params: Promise<{ packId: string }>;
}

export const metadata = { title: 'Pack' };

/** A pack that is put together. */
export default async function Pack({ params }: Props) {
  const { packId: raw } = await params;
  const actor = await pageActor(`/pack/${raw}`);
  const packId = pageId(raw);
  await orNotFound(packSheet(actor, { packId }));
  return <PackPage packId={packId} />;
}
