import { notFound } from 'next/navigation';
import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { openPlace } from '@/server/places/open';
import { PlanPage } from '@/ui/plans/PlanPage';

interface Props {
  readonly params: Promise<{ placeId: string }>;
}

export const metadata = { title: 'Filing plan' };

/** The filing plan of a series. */
export default async function Plan({ params }: Props) {
  const { placeId: raw } = await params;
  const actor = await pageActor(`/plan/${raw}`);
  const { place } = await orNotFound(openPlace(actor, { placeId: pageId(raw) }));
  if (place.kind !== 'series' || place.bareStep) notFound();
  return <PlanPage seriesId={place.id} name={place.name} />;
}
