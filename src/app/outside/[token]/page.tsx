import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { connection } from 'next/server';
import { visitCookie } from '@/app/http/visit';
import { Refusal } from '@/core/errors/refusal';
import { librarySettings } from '@/server/library/settings';
import { papersOutside } from '@/server/outside/papers';
import { gateOf, visitorOf } from '@/server/outside/visit';
import { FrontPage } from '@/ui/session/FrontPage';
import { OpenLinkForm } from '@/ui/outside/OpenLinkForm';
import { OutsidePapers } from '@/ui/outside/OutsidePapers';

export const metadata = { title: 'Opened to you', robots: { index: false } };

/** Where someone without an account comes to by an outside link: the gate first, then what it opens. */
export default async function OutsidePage({ params }: { readonly params: Promise<{ token: string }> }) {
  await connection();
  const { token } = await params;
  const visit = (await cookies()).get(visitCookie(token))?.value;
  const visitor = visit === undefined ? null : await visitorOf(token, visit);
  if (visitor) {
    // Who is asked to sign one paper comes to it at once.
    if (visitor.signs !== null && visitor.shows.kind === 'paper')
      redirect(`/outside/${encodeURIComponent(token)}/${visitor.shows.documentId}`);
    const { papers, lines } = await papersOutside(visitor);
    const library = await librarySettings();
    return (
      <OutsidePapers
        token={token}
        library={library.name}
        timeZone={library.timeZone}
        name={visitor.shows.kind === 'view' ? visitor.shows.view.name : null}
        copies={visitor.copies}
        papers={papers.map(({ id, title, stamp, sizeBytes, pageCount, changedAt }) => ({
          id,
          title,
          stamp,
          sizeBytes,
          pageCount,
          changedAt,
        }))}
        lines={lines}
      />
    );
  }
  const gate = await gateOf(token).catch((error: unknown) => {
    if (error instanceof Refusal) return null;
    throw error;
  });
  if (!gate)
    return (
      <FrontPage
        title="This link opens nothing"
        about="It has run out, has been withdrawn, or was not copied whole. Ask whoever sent it to you for a new one."
      >
        {null}
      </FrontPage>
    );
  const library = await librarySettings();
  return (
    <FrontPage title="Opened to you" about={`Something from the library of ${library.name}.`}>
      <OpenLinkForm token={token} needsCode={gate.needsCode} needsPassword={gate.needsPassword} />
    </FrontPage>
  );
}
