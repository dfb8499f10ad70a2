import { and, eq, gte, isNull, lt, or, sql } from 'drizzle-orm';
import path from 'node:path';
import { writeFile } from 'node:fs/promises';
import { agendaPage, type PageItem } from '@/core/agenda/page';
import { toldItems } from '@/core/outline/told';
import { saidOf } from '@/core/minutes/text';
import { writeDay } from '@/core/calendar/typedDay';
import type { Value } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import { actsInSteps } from '../acts/operation';
import { appendToJournal } from '../acts/append';
import { perform } from '../acts/act';
import { isOpenToAllOf } from '../access/readers';
import { now } from '../base/clock';
import { sha256Hex } from '../base/sha256';
import { storeBytes } from '../blobs/keep';
import { inFolder, madeBytes } from '../cage/file';
import { convertOffice } from '../cage/office';
import { writeOwn } from '../columns/write';
import { db, writableDb, type Tx } from '../db/client';
import { agenda, document, itemOutcome, meeting, person, place } from '../db/schema';
import { transaction } from '../db/transaction';
import { filePapers, fileVersion, type Filing } from '../documents/file';
import { expectedHome } from '../expected/home';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { librarySettings } from '../library/settings';
import { logFault } from '../log/fault';
import { openAt, outcomesWhere } from './outcomes';
import { agendaFor, agendaName, itemsOf, papersOfItems, readableItems } from './read';

/** After so many failures a printed agenda is not tried any more, until the agenda changes. */
const mostTries = 5;
/** An agenda that is filed already is filed again once nobody has changed it for so long. */
const restMs = 60_000;

/**
 * Has the printed form of a meeting's agenda filed: where the filing plan expects an agenda, else in the meeting's folder, else in
 * the dossier. The worker makes it, and makes it again as a new version whenever the agenda has changed.
 */
export const fileAgenda = actsInSteps('agenda.file', async (actor, { agendaId }) => {
  const [found] = await db().select().from(agenda).where(eq(agenda.id, agendaId));
  if (!found) refuse('not-found');
  if (found.meetingId === null) refuse('invalid', 'Standing items are not filed: the agenda of a meeting is.');
  const target = await expectedHome(actor, found.dossierId, found.meetingId, /\bagenda\b/iu);
  return perform(actor, async (tx) => {
    const { agenda: locked, dossier, named } = await agendaFor(tx, actor, agendaId);
    if ((await itemsOf(tx, locked.id)).length === 0) refuse('invalid', 'The agenda has no items yet.');
    const [pdf] = await tx
      .select({ homeId: document.homeId })
      .from(document)
      .where(and(eq(document.id, locked.pdfId ?? agendaId), isNull(document.disposedAt)));
    // Filed once, it stays where it is.
    if (!pdf) await placeFor(tx, actor, target.placeId, 'add');
    await tx
      .update(agenda)
      .set({
        filing: 'waiting',
        filingTries: 0,
        filedBy: actor.personId,
        pageSha256: null,
        placeId: target.placeId,
        values: target.values,
      })
      .where(eq(agenda.id, agendaId));
    return { entry: { act: 'agenda.filingAsked', subjects: [dossier.id], detail: { agenda: named } }, result: null };
  });
});

type Waiting = typeof agenda.$inferSelect;

/** Files the agendas that wait for it. Of two workers one files each. Returns how many. */
export async function fileAgendas(): Promise<number> {
  await writableDb()
    .update(agenda)
    .set({ filing: 'failed' })
    .where(and(eq(agenda.filing, 'waiting'), gte(agenda.filingTries, mostTries)));
  const rested = new Date(now().getTime() - restMs);
  const waiting = await db()
    .select()
    .from(agenda)
    .where(
      and(
        eq(agenda.filing, 'waiting'),
        // What a person has just asked for is not waited with.
        or(isNull(agenda.pageSha256), lt(agenda.changedAt, rested)),
      ),
    );
  let filed = 0;
  for (const each of waiting) {
    // Counted before it is tried: what ends this process counts too.
    await writableDb()
      .update(agenda)
      .set({ filingTries: sql`${agenda.filingTries} + 1` })
      .where(eq(agenda.id, each.id));
    const done = await fileOne(each).catch((error: unknown) => {
      logFault(error, { where: 'agenda' });
      return false;
    });
    if (done) filed += 1;
  }
  return filed;
}

async function fileOne(waiting: Waiting): Promise<boolean> {
  const [asker] = await db()
    .select({ personId: person.id, name: person.name, email: person.email, keeper: person.keeper })
    .from(person)
    .where(and(eq(person.id, waiting.filedBy ?? waiting.id), eq(person.active, true)));
  const [held] = await db()
    .select({ day: meeting.day, title: meeting.title, venue: meeting.venue, dossier: place })
    .from(meeting)
    .innerJoin(place, eq(place.id, meeting.dossierId))
    .where(eq(meeting.id, waiting.meetingId ?? waiting.id));
  if (!asker || !held) throw new Error('Nobody is there to file the agenda for');
  const page = await pageOf(asker, waiting, held);
  const pageSha256 = sha256Hex(Buffer.from(page));
  // What was changed back meanwhile is filed already.
  const made = pageSha256 === waiting.pageSha256 ? null : await madeOf(page);
  return transaction([], async (tx) => {
    const [still] = await tx.select().from(agenda).where(eq(agenda.id, waiting.id)).for('update');
    if (still?.filing !== 'waiting') return false;
    // Changed while it was made: the next round files that.
    if (still.changedAt.getTime() !== waiting.changedAt.getTime()) return false;
    const settled = { filing: 'done', filingTries: 0, pageSha256 } as const;
    if (made === null) {
      await tx.update(agenda).set(settled).where(eq(agenda.id, still.id));
      return true;
    }
    const title = `Agenda ${writeDay(held.day)}`;
    const pdfId = await keep(tx, asker, still, still.pdfId, title, 'pdf', made.pdf);
    // Not called as the other is, so that it is not taken for the expected paper.
    const wordId = await keep(
      tx,
      asker,
      still,
      still.wordId,
      `Word form of the agenda ${writeDay(held.day)}`,
      'docx',
      made.word,
    );
    await tx
      .update(agenda)
      .set({ ...settled, pdfId, wordId })
      .where(eq(agenda.id, still.id));
    await appendToJournal(tx, asker, {
      act: 'agenda.filed',
      subjects: [held.dossier.id, pdfId, wordId],
      detail: { agenda: agendaName({ meeting: held, dossier: held.dossier }) },
    });
    return true;
  });
}

const kinds = {
  pdf: { mediaType: 'application/pdf', stamp: 'PDF', output: 'pages' },
  docx: {
    mediaType: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
    stamp: 'DOC',
    output: 'word',
  },
} as const;

/** Files one form of an agenda: as the next version of the paper that it was, or, where there is none, as a new paper. */
async function keep(
  tx: Tx,
  asker: Actor,
  { placeId, dossierId, values }: Waiting,
  paperId: string | null,
  title: string,
  ending: keyof typeof kinds,
  bytes: Buffer,
): Promise<string> {
  const sha256 = sha256Hex(bytes);
  const { mediaType, stamp } = kinds[ending];
  await storeBytes(tx, sha256, bytes);
  const content: Filing['content'] = {
    sha256,
    arrived: null,
    sizeBytes: bytes.length,
    fileName: `${title}.${ending}`,
    mediaType,
    stamp,
  };
  const [before] = await tx
    .select({ id: document.id })
    .from(document)
    .where(and(eq(document.id, paperId ?? asker.personId), isNull(document.disposedAt)));
  if (before) {
    await fileVersion(tx, asker, before.id, content, 'The agenda was changed');
    return before.id;
  }
  const home = await placeFor(tx, asker, placeId ?? dossierId, 'add');
  const [filed] = await filePapers(tx, asker, [{ placeId: home.id, title, remark: '', content }]);
  if (!filed) throw new Error('The agenda was not filed');
  // The Word form is for editing: the expected paper is the other one.
  const changes = Object.entries(ending === 'pdf' ? values : {}).map(([columnId, after]) => ({
    documentId: filed.documentId,
    columnId,
    before: null,
    after: after as Value,
  }));
  await writeOwn(tx, asker, changes);
  return filed.documentId;
}

/** The agenda's page as a PDF and as a Word document. @throws if the office program cannot make them */
async function madeOf(page: string): Promise<{ pdf: Buffer; word: Buffer }> {
  const made = await inFolder(async (folder) => {
    const file = path.join(folder, 'page.html');
    await writeFile(file, page);
    const as = async (ending: keyof typeof kinds): Promise<Buffer | null> => {
      const end = await convertOffice(file, 'HTML (StarWriter)', kinds[ending].output, `made.${ending}`);
      return end === 'done' ? madeBytes(path.join(folder, `made.${ending}`)) : null;
    };
    const pdf = await as('pdf');
    const word = pdf && (await as('docx'));
    return word && { pdf, word };
  });
  if (made === null) throw new Error('The agenda could not be printed');
  return made;
}

/**
 * What is printed: confidential items by their number alone, and of papers only the titles of those that everybody may see who
 * may see where the agenda is filed.
 */
async function pageOf(
  asker: Actor,
  { id, placeId, dossierId, startsAt, numbering }: Waiting,
  held: { day: string; title: string; venue: string; dossier: { name: string } },
): Promise<string> {
  const reader = db();
  const { name: library } = await librarySettings();
  const items = await itemsOf(reader, id);
  const ids = items.map((item) => item.id);
  const told = toldItems(await readableItems(reader, items), '', false);
  const [home] = await reader
    .select({ scopeId: place.scopeId })
    .from(place)
    .where(eq(place.id, placeId ?? dossierId));
  const scopeId = home?.scopeId ?? null;
  // Where no scope is, only keepers come, and they see all.
  const isOpenToAll = (documentId: string) =>
    scopeId === null ? Promise.resolve(true) : isOpenToAllOf(reader, documentId, scopeId);
  const papers = await papersOfItems(reader, asker, ids);
  const printed: PageItem[] = [];
  for (const [at, item] of items.entries()) {
    if (told[at] !== true) {
      printed.push({ ...item, title: null, presenter: '', kind: null, notes: '', papers: [] });
      continue;
    }
    const titles: string[] = [];
    for (const { documentId, title, disposedAt } of papers.get(item.id) ?? [])
      if (disposedAt === null && (await isOpenToAll(documentId))) titles.push(title);
    printed.push({ ...item, papers: titles });
  }
  const { dossier, title: meetingTitle, day, venue } = held;
  const stillOpen = and(openAt({ dossierId, day }), isNull(itemOutcome.doneAt));
  const open = await outcomesWhere(reader, asker, stillOpen, { most: 100, toldToAll: true });
  return agendaPage({
    library,
    dossier: dossier.name,
    meeting: meetingTitle,
    day: writeDay(day),
    venue,
    startsAt,
    numbering,
    items: printed,
    openActions: open.map((each) => `${writeDay(each.meeting.day)}, item ${each.number}: ${saidOf(each)}`),
  });
}
