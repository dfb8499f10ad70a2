import { notFound } from 'next/navigation';
import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { openPlace } from '@/server/places/open';
import { RegisterPage } from '@/ui/minutes/RegisterPage';

interface Props {
  readonly params: Promise<{ placeId: string }>;
}

export const metadata = { title: 'Decisions and actions' };

/** The decisions and actions of all meetings in a place. */
export default async function Decisions({ params }: Props) {
  const { placeId: raw } = await params;
  const actor = await pageActor(`/decisions/${raw}`);
  const { place } = await orNotFound(openPlace(actor, { placeId: pageId(raw) }));
  if (place.bareStep) notFound();
  return <RegisterPage placeId={place.id} name={place.name} />;
}
