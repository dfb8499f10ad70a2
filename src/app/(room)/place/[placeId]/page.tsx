import type { Metadata } from 'next';
import { cache } from 'react';
import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { z } from 'zod';
import { openPlace } from '@/server/places/open';
import { PlaceRoom } from '@/ui/places/PlaceRoom';

interface Props {
  readonly params: Promise<{ placeId: string }>;
  readonly searchParams: Promise<{ readonly in?: string | string[] }>;
}

/** Opened once, for the title and for the page. */
const opened = cache(async (raw: string, within: string | null) => {
  const actor = await pageActor(`/place/${raw}`);
  return orNotFound(openPlace(actor, { placeId: pageId(raw), withinId: within }));
});

async function asked({ params, searchParams }: Props) {
  const { placeId } = await params;
  const { in: within } = await searchParams;
  return opened(placeId, z.uuid().safeParse(within).data ?? null);
}

export async function generateMetadata(props: Props): Promise<Metadata> {
  return { title: (await asked(props)).place.name };
}

export default async function PlacePage(props: Props) {
  const page = await asked(props);
  return <PlaceRoom key={`${page.place.id} ${page.withinId}`} initial={page} />;
}
