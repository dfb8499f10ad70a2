import { z } from 'zod';
import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { accessMatrix } from '@/server/access/matrix';
import { MatrixPage } from '@/ui/access/MatrixPage';

export const metadata = { title: 'Who sees what' };

export default async function Access({
  params,
  searchParams,
}: {
  readonly params: Promise<{ placeId: string }>;
  readonly searchParams: Promise<{ person?: string }>;
}) {
  const { placeId } = await params;
  const personId = z.uuid().safeParse((await searchParams).person).data ?? null;
  const actor = await pageActor(`/access/${placeId}`);
  await orNotFound(accessMatrix(actor, { placeId: pageId(placeId), who: 'people', personId, show: 'alone' }));
  return <MatrixPage placeId={placeId} personId={personId} />;
}
