import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import { asc, eq } from 'drizzle-orm';
import type { CutPaper } from '@/core/intake/cut';
import { readContent } from '@/server/blobs/content';
import { db, writableDb } from '@/server/db/client';
import { arrival, blob, wayIn } from '@/server/db/schema';
import { destroyPapers } from '@/server/disposal/destroy';
import { disposePapers } from '@/server/disposal/dispose';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { fileArrival, takeArrivalBack } from '@/server/intake/act';
import { cutArrival, cutNext } from '@/server/intake/cut';
import { arrivalSheet } from '@/server/intake/read';
import { separatorSheet } from '@/server/intake/separatorSheet';
import { lookAtWaysIn } from '@/server/intake/ways/look';
import { oneMoreLook } from '@/server/intake/ways/model';
import { arrivalsFolder, readArrivals } from '../arrivals';
import { dropLibrary, freshLibrary, furnished, newcomer, refusal } from '../library';

let keeper: Actor;
let clerk: Actor;
let lantern: string;
let folder: string;
let remove: () => Promise<void>;

beforeAll(async () => {
  ({ folder, remove } = await arrivalsFolder());
  keeper = await freshLibrary();
  clerk = await newcomer(keeper, 'Cle Rk');
  const { series } = await furnished(keeper, 'Suppliers');
  lantern = (await createDossier(keeper, { seriesId: series.id, name: 'Lantern Dredging', reference: 'S-017' })).id;
  await mkdir(path.join(folder, 'scanner'));
});
afterAll(async () => {
  await dropLibrary();
  await remove();
});
beforeEach(async () => {
  await writableDb().delete(arrival);
  await writableDb().delete(wayIn);
});

type Page = string | { readonly sheet: string | null } | 'blank';
/** A stack as a scanner gives it: pages with words, separator sheets, and pages with nothing. */
async function stackOf(...pages: readonly Page[]): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  for (const page of pages) {
    if (typeof page !== 'string') {
      const [copied] = await pdf.copyPages(await PDFDocument.load(await separatorSheet(page.sheet)), [0]);
      if (copied) pdf.addPage(copied);
    } else {
      const made = pdf.addPage();
      if (page !== 'blank') made.drawText(page, { x: 60, y: 700, size: 20 });
    }
  }
  return Buffer.from(await pdf.save({ useObjectStreams: false }));
}

let scanned = 0;
async function scan(stack: Buffer, atBlanks = false): Promise<void> {
  await writableDb().delete(wayIn);
  await writableDb()
    .insert(wayIn)
    .values({ name: 'Scanner', settings: { kind: 'scans', folder: 'scanner', atBlanks } });
  await writeFile(path.join(folder, 'scanner', `Scan${(scanned += 1)}.pdf`), stack);
  await lookAtWaysIn();
  await writableDb().update(wayIn).set({ looksWanted: oneMoreLook });
  expect(await lookAtWaysIn()).toBe(1);
  await seeTo();
}
/** What the worker does with it. */
async function seeTo(): Promise<void> {
  do await readArrivals();
  while (await cutNext());
}
const all = () => db().select().from(arrival).orderBy(asc(arrival.arrivedAt));
const waiting = async () => (await all()).filter(({ state }) => state === 'waiting');
async function textsOf(sha256: string): Promise<string[]> {
  const { rows } = await db().execute<{ words: string }>(
    `select words from reading_page where sha256 = '${sha256}' order by page`,
  );
  return rows.map(({ words }) => words.trim());
}
const papers = (...its: readonly (readonly CutPaper['pages'][number][])[]) =>
  its.map((pages) => ({ pages: [...pages] }));
const page = (number: number, turn: 0 | 90 | 180 | 270 = 0) => ({ page: number, turn });

describe('a stack with separator sheets', () => {
  it('becomes papers, each where its sheet says; the stack is kept, and can be had back', async () => {
    await scan(await stackOf({ sheet: null }, 'First', 'its second page', { sheet: 'S-017' }, 'Second'));
    const made = await waiting();
    expect(made.map(({ fileName, sheetReference }) => [fileName, sheetReference])).toEqual([
      [`Scan${scanned} 1.pdf`, null],
      [`Scan${scanned} 2.pdf`, 'S-017'],
    ]);
    expect(await textsOf(made[0]?.sha256 ?? '')).toEqual(['First', 'its second page']);
    const { places } = await arrivalSheet(keeper, { arrivalId: made[1]?.id ?? '' });
    expect(places[0]?.evidence).toEqual([{ kind: 'sheet', about: 'S-017' }]);
    const stack = (await all()).find(({ state }) => state === 'cut');
    expect((await arrivalSheet(keeper, { arrivalId: stack?.id ?? '' })).cutInto).toBe(2);
    await takeArrivalBack(keeper, { arrivalId: stack?.id ?? '' });
    await seeTo();
    // Whoever wants the whole has the whole: it is not taken apart once more.
    expect((await all()).map(({ state, fileName }) => [state, fileName])).toEqual([['waiting', `Scan${scanned}.pdf`]]);
    expect(await db().$count(blob, eq(blob.sha256, made[0]?.sha256 ?? ''))).toBe(0);
  });

  it('and blank pages do it only where that is wished; a code that says something else does nothing', async () => {
    await scan(await stackOf('One', 'blank', 'Two'));
    expect(await waiting()).toHaveLength(1);
    await writableDb().delete(arrival);
    await scan(await stackOf('One line of words ', 'blank', 'Two lines of words', 'blank', 'blank'), true);
    expect((await waiting()).map(({ fileName }) => fileName)).toEqual([`Scan${scanned} 1.pdf`, `Scan${scanned} 2.pdf`]);
    await writableDb().delete(arrival);
    await scan(await stackOf('One', { sheet: '../../etc' }, 'Two'));
    expect(await waiting()).toHaveLength(1);
  });

  it('that arrives twice is taken apart once', async () => {
    const stack = await stackOf('Once', { sheet: null }, 'Only');
    await scan(stack);
    await scan(stack);
    expect((await all()).map(({ state }) => state).sort()).toEqual(['again', 'cut', 'waiting', 'waiting']);
  });

  it('two pages of it that are alike are two papers', async () => {
    await scan(await stackOf('The same', { sheet: null }, 'The same'));
    expect(await waiting()).toHaveLength(2);
  });
});

describe('pages of a scan, by hand', () => {
  it('are turned, ordered, left out, and made into papers', async () => {
    await scan(await stackOf('a', 'b', 'c', 'd'));
    const [whole] = await waiting();
    const arrivalId = whole?.id ?? '';
    const cut = (its: ReturnType<typeof papers>, actor = keeper) =>
      cutArrival(actor, { arrivalId, revision: whole?.revision ?? 0, papers: its });
    expect(await refusal(cut(papers([page(1), page(2), page(3), page(4)])))).toMatch(/Nothing is changed/u);
    expect(await refusal(cut(papers([page(5)])))).toMatch(/4 pages/u);
    expect(await refusal(cut(papers([page(1)], [page(1)])))).toMatch(/one paper/u);
    expect(await refusal(cut(papers([page(1)]), clerk))).toMatch(/^not-found/u);
    await cut(papers([page(3), page(1, 90)], [page(4)]));
    expect(await refusal(cut(papers([page(1)])))).toMatch(/^conflict/u);
    // Undone before the worker has come to it.
    await takeArrivalBack(keeper, { arrivalId });
    expect(await waiting()).toMatchObject([{ id: arrivalId, cut: null }]);
    await cutArrival(keeper, {
      arrivalId,
      revision: (whole?.revision ?? 0) + 2,
      papers: papers([page(3), page(1, 90)], [page(4)]),
    });
    await Promise.all([cutNext(), cutNext()]);
    await seeTo();
    const made = await waiting();
    expect(made).toHaveLength(2);
    expect(await textsOf(made[1]?.sha256 ?? '')).toEqual(['d']);
    const [content] = await db()
      .select()
      .from(blob)
      .where(eq(blob.sha256, made[0]?.sha256 ?? ''));
    const pieces: Buffer[] = [];
    if (content) for await (const piece of readContent(content)) pieces.push(piece);
    const pdf = await PDFDocument.load(Buffer.concat(pieces));
    expect(pdf.getPages().map((each) => each.getRotation().angle)).toEqual([0, 90]);
  });

  it('when one of its papers is destroyed, the scan goes with it, and the others stay', async () => {
    await scan(await stackOf('kept', { sheet: null }, 'gone'));
    const [kept, gone] = await waiting();
    const { revision } = await arrivalSheet(keeper, { arrivalId: gone?.id ?? '' });
    const { documentIds } = await fileArrival(keeper, {
      ...{ arrivalId: gone?.id ?? '', revision, placeId: lantern },
      parts: [{ attachment: null, title: 'Gone' }],
    });
    const stack = (await all()).find(({ state }) => state === 'cut');
    expect(await refusal(takeArrivalBack(keeper, { arrivalId: stack?.id ?? '' }))).toMatch(/seen to already/u);
    await disposePapers(keeper, { documentIds: [...documentIds] });
    await destroyPapers(keeper, { documentIds: [...documentIds] });
    expect((await all()).map(({ id }) => id)).toEqual([kept?.id]);
    expect(await db().$count(blob, eq(blob.sha256, stack?.sha256 ?? ''))).toBe(0);
  });

  it('of a part that was taken apart once more, the whole stack goes too', async () => {
    await scan(await stackOf('a', { sheet: null }, 'b', 'c'));
    const [first, second] = await waiting();
    const { id = '', revision = 0 } = second ?? {};
    await cutArrival(keeper, { arrivalId: id, revision, papers: papers([page(1)], [page(2)]) });
    await seeTo();
    const gone = (await waiting()).find(({ partOf }) => partOf === id);
    const sheet = await arrivalSheet(keeper, { arrivalId: gone?.id ?? '' });
    const { documentIds } = await fileArrival(keeper, {
      ...{ arrivalId: sheet.id, revision: sheet.revision, placeId: lantern },
      parts: [{ attachment: null, title: 'Gone too' }],
    });
    await disposePapers(keeper, { documentIds: [...documentIds] });
    await destroyPapers(keeper, { documentIds: [...documentIds] });
    const left = await all();
    expect(left.map(({ state }) => state)).toEqual(['waiting', 'waiting']);
    expect(left.map((each) => each.id)).toContain(first?.id);
  });

  it('a file that is no PDF at all waits as it is', async () => {
    await scan(Buffer.from('%PDF-1.4 nothing of a PDF\n%%EOF\n'));
    expect(await waiting()).toHaveLength(1);
  });
});
