import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { columnsAt } from '@/server/columns/read';
import { ColumnsPage } from '@/ui/columns/ColumnsPage';

export const metadata = { title: 'Columns' };

export default async function Columns({ params }: { readonly params: Promise<{ placeId: string }> }) {
  const { placeId } = await params;
  const actor = await pageActor(`/columns/${placeId}`);
  await orNotFound(columnsAt(actor, { placeId: pageId(placeId) }));
  return <ColumnsPage placeId={placeId} />;
}
