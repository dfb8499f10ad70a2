import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { docketOf } from '@/server/documents/docket';
import { NoteRoom } from '@/ui/notes/NoteRoom';

export const metadata = { title: 'Writing a note' };

/** Writing a note. */
export default async function WritePage({ params }: { readonly params: Promise<{ documentId: string }> }) {
  const { documentId } = await params;
  const actor = await pageActor(`/paper/${documentId}/write`);
  const { id, title } = await orNotFound(docketOf(actor, { documentId: pageId(documentId) }));
  return <NoteRoom documentId={id} title={title} />;
}
