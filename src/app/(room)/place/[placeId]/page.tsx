import type { Metadata } from 'next';
import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { openPlace } from '@/server/places/open';
import { PlaceRoom } from '@/ui/places/PlaceRoom';

interface Props {
  readonly params: Promise<{ placeId: string }>;
}

async function asked({ params }: Props) {
  const { placeId: raw } = await params;
  const actor = await pageActor(`/place/${raw}`);
  return orNotFound(openPlace(actor, { placeId: pageId(raw) }));
}

export async function generateMetadata(props: Props): Promise<Metadata> {
  return { title: (await asked(props)).place.name };
}

export default async function PlacePage(props: Props) {
  const page = await asked(props);
  return <PlaceRoom key={page.place.id} initial={page} />;
}
