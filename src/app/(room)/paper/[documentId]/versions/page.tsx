import { orNotFound, pageActor, pageId } from '@/app/pageActor';
import { docketOf } from '@/server/documents/docket';
import { VersionsBeside } from '@/ui/documents/VersionsBeside';

export const metadata = { title: 'Versions side by side' };

/** Two versions of a paper, side by side. */
export default async function VersionsPage({ params }: { readonly params: Promise<{ documentId: string }> }) {
  const { documentId } = await params;
  const actor = await pageActor(`/paper/${documentId}/versions`);
  return <VersionsBeside initial={await orNotFound(docketOf(actor, { documentId: pageId(documentId) }))} />;
}
