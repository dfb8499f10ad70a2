import { eq } from 'drizzle-orm';
import { db } from '@/server/db/client';
import { document, version } from '@/server/db/schema';
import { readStages } from '@/server/extraction/read';
import { meetingsOf } from '@/server/meetings/meetings';
import { makeNextCopy } from '@/server/packs/copies';
import { setPack } from '@/server/packs/entries';
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
    for (const { paper } of sheet.entries) if (paper) await read(paper.documentId);
    await issuePack(maren, { packId, asFiles: true, as: 'whole' });
    await makeNextIssue();
    for (;;) if (!(await makeNextCopy())) break;
  }
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
