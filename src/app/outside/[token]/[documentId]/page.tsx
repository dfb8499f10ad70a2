import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { orNotFound, pageId } from '@/app/pageActor';
import { visitCookie } from '@/app/http/visit';
import { contentOutside, paperOutside } from '@/server/outside/papers';
import { visitorOf } from '@/server/outside/visit';
import { askedOutside } from '@/server/signoff/outside';
import { readableOf } from '@/server/reading/read';
import { OutsideReader } from '@/ui/outside/OutsideReader';

export const metadata = { title: 'Opened to you', robots: { index: false } };

/** A paper on the screen of someone outside. */
export default async function OutsidePaperPage({
  params,
}: {
  readonly params: Promise<{ token: string; documentId: string }>;
}) {
  const { token, documentId: raw } = await params;
  const documentId = pageId(raw);
  const visit = (await cookies()).get(visitCookie(token))?.value;
  const visitor = visit === undefined ? null : await visitorOf(token, visit);
  if (!visitor) redirect(`/outside/${encodeURIComponent(token)}`);
  const paper = await orNotFound(paperOutside(visitor, documentId));
  const content = await orNotFound(contentOutside(visitor, documentId, null, 'see'));
  return (
    <OutsideReader
      token={token}
      documentId={documentId}
      title={paper.title}
      paper={await readableOf(content, 1)}
      asked={await askedOutside(visitor)}
    />
  );
}
