import { notFound } from 'next/navigation';
import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { openPlace } from '@/server/places/open';
import { PlacePacksPage } from '@/ui/packs/PlacePacksPage';

interface Props {
  readonly params: Promise<{ placeId: string }>;
}

export const metadata = { title: 'Packs' };

/** The packs of a place. */
export default async function Packs({ params }: Props) {
  const { placeId: raw } = await params;
  const actor = await pageActor(`/packs/${raw}`);
  const { place, capabilities } = await orNotFound(openPlace(actor, { placeId: pageId(raw) }));
  if (place.bareStep) notFound();
  const mayChange = capabilities.includes('amend') && !place.closed && !place.locked;
  return <PlacePacksPage placeId={place.id} name={place.name} mayChange={mayChange} />;
}
