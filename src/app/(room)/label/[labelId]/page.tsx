import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { labelledPapers } from '@/server/labels/labels';
import { LabelPage } from '@/ui/labels/LabelPage';

export const metadata = { title: 'Label' };

export default async function Label({ params }: { readonly params: Promise<{ labelId: string }> }) {
  const { labelId } = await params;
  const actor = await pageActor(`/label/${labelId}`);
  await orNotFound(labelledPapers(actor, { labelId: pageId(labelId) }));
  return <LabelPage labelId={labelId} />;
}
