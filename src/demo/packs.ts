import { and, arrayContains, asc, desc, eq, inArray, isNull, notLike } from 'drizzle-orm';
import { db } from '@/server/db/client';
import { document, place, version } from '@/server/db/schema';
import { readStages } from '@/server/extraction/read';
import { meetingsOf } from '@/server/meetings/meetings';
import { makeNextCopy } from '@/server/packs/copies';
import { addPapers, addSection, setPack } from '@/server/packs/entries';
import { beginPack } from '@/server/packs/fromAgenda';
import { issuePack } from '@/server/packs/issue';
import { makeNextIssue } from '@/server/packs/make';
import { packSheet } from '@/server/packs/read';
import { agendaCommittees } from './agendas';
import { someone, type People, type Places } from './named';
import { keeper } from './people';

/** The packs of the last meetings, issued; and the one for the board's next meeting, still put together. */
export async function layPacks(people: People, places: Places, now: Date): Promise<void> {
  const maren = someone(people, keeper.name);
  const today = now.toISOString().slice(0, 10);
  for (const { name } of agendaCommittees) {
    const dossierId = someone(places, `Board & committees/${name}`);
    const meetings = await meetingsOf(maren, { dossierId });
    const last = meetings.findLast(({ day }) => day < today);
    if (!last) continue;
    const { packId } = await beginPack(maren, { of: { meetingId: last.id } });
    const sheet = await packSheet(maren, { packId });
    const { name: title, day, stampPlace, sheets } = sheet;
    await setPack(maren, {
      packId,
      name: title,
      description: 'The papers of the meeting, in the order of its agenda.',
      preparedBy: maren.name,
      forWhom: 'Members and those in attendance',
      day,
      stampPlace,
      sheets,
      revision: sheet.revision,
    });
    const { entryId } = await addSection(maren, { packId, parentId: null, title: 'For reading' });
    const [late, ...others] = await furtherPapers(dossierId, title);
    if (others.length > 0) await addPapers(maren, { packId, parentId: entryId, documentIds: others });
    for (const { paper } of (await packSheet(maren, { packId })).entries) if (paper) await read(paper.documentId);
    await issue('whole', packId);
    // A paper that came in late.
    if (name !== supplemented || late === undefined) continue;
    await read(late);
    await addPapers(maren, { packId, parentId: entryId, documentIds: [late] });
    await issue('supplement', packId);
  }

  async function issue(as: 'whole' | 'supplement', packId: string): Promise<void> {
    await issuePack(maren, { packId, asFiles: true, as });
    await makeNextIssue();
    for (;;) if (!(await makeNextCopy())) break;
  }
}

/** The committee whose pack has a supplement. */
const supplemented = 'Full board';

/** Papers of a committee that are good to read again, the newest first; of each title one. */
async function furtherPapers(dossierId: string, besides: string): Promise<string[]> {
  const rows = await db()
    .select({ id: document.id, title: document.title })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        arrayContains(place.lineage, [dossierId]),
        isNull(document.disposedAt),
        inArray(document.stamp, ['PDF', 'DOC', 'SLIDES']),
        notLike(document.title, '%Minutes%'),
        notLike(document.title, '%Agenda%'),
        notLike(document.title, besides),
      ),
    )
    .orderBy(desc(document.filedAt), asc(document.id))
    .limit(60);
  return [...new Map(rows.map(({ id, title }) => [title, id])).values()].slice(0, 6);
}

/** Reads a paper now, as the worker does later: how many pages it has is known only then. */
async function read(documentId: string): Promise<void> {
  const [found] = await db()
    .select({ sha256: version.sha256 })
    .from(version)
    .innerJoin(document, eq(document.versionId, version.id))
    .where(eq(document.id, documentId));
  if (found) await readStages(found.sha256);
}
