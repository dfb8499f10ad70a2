import type { Metadata } from 'next';
import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { openPlace } from '@/server/places/open';
import { PrintSheet } from '@/ui/views/PrintSheet';

interface Props {
  readonly params: Promise<{ placeId: string }>;
}

export const metadata: Metadata = { title: 'A list to print' };

/** A view of a place as a plain list for paper; the view stands in the address as it does on the place's own page. */
export default async function PrintPage({ params }: Props) {
  const { placeId: raw } = await params;
  const actor = await pageActor(`/print/${raw}`);
  const page = await orNotFound(openPlace(actor, { placeId: pageId(raw) }));
  return <PrintSheet page={page} />;
}
