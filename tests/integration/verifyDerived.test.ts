import { eq, sql } from 'drizzle-orm';
import { writableDb } from '@/server/db/client';
import { document, searchPost, searchText } from '@/server/db/schema';
import type { Actor } from '@/server/gate/actor';
import { mergeSegments } from '@/server/postings/keep';
import { verifyLibrary } from '@/server/verify/verify';
import { openView } from '@/server/views/open';
import { dropLibrary, type furnished, freshLibrary, furnished as furnish, plainQuestion } from '../library';
import { contentOf, readPaper } from '../reading';
import { filed, text } from './sending';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
const papers: string[] = [];

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnish(keeper);
  for (let at = 0; at < 26; at += 1) {
    const id = await filed(
      keeper,
      home.year.id,
      `Note ${at}.txt`,
      text(`The kittiwake nests on ledge ${at}, e-mail 12 May 2026.`),
    );
    await readPaper(id);
    papers.push(id);
  }
});
afterAll(() => dropLibrary());

const verified = async () =>
  (await verifyLibrary({ contentBytes: false })).map(({ of, about, says }) => [of, about, says]);

it('finds the index and the tally equal to the papers, before and after segments are merged', async () => {
  await openView(keeper, { ...plainQuestion, placeId: home.year.id });
  expect(await verified()).toEqual([]);
  expect(await mergeSegments()).toBeGreaterThan(0);
  expect(await verified()).toEqual([]);
});

it('finds a term that is missing, one of another place, and a text that is not in the index', async () => {
  const sha256s = await Promise.all(papers.slice(0, 2).map(contentOf));
  const gone = await writableDb().delete(searchPost).where(eq(searchPost.term, 'kittiwak')).returning();
  expect(gone.length).toBeGreaterThan(0);
  const missing = await verified();
  expect(
    missing.filter(([, , says]) => says === 'is found by other words than stand in it').length,
  ).toBeGreaterThanOrEqual(24);
  await writableDb().insert(searchPost).values(gone);
  const [text] = await writableDb()
    .delete(searchText)
    .where(eq(searchText.sha256, sha256s[1] ?? ''))
    .returning();
  expect(await verified()).toEqual([['words', sha256s[1], 'is a text that was read, and is not in the index']]);
  if (text) await writableDb().insert(searchText).values(text);
  expect(await verified()).toEqual([]);
});

it('finds a tally that has missed a change', async () => {
  await openView(keeper, { ...plainQuestion, placeId: home.year.id });
  const set = async (sizeBytes: number) => {
    // Past the triggers that tell the tally.
    await writableDb().execute(sql`alter table document disable trigger user`);
    await writableDb()
      .update(document)
      .set({ sizeBytes })
      .where(eq(document.id, papers[0] ?? ''));
    await writableDb().execute(sql`alter table document enable trigger user`);
  };
  const [before] = await writableDb()
    .select({ sizeBytes: document.sizeBytes })
    .from(document)
    .where(eq(document.id, papers[0] ?? ''));
  await set(99_999);
  expect((await verified()).map(([of]) => of)).toContain('tally');
  await set(before?.sizeBytes ?? 0);
  expect(await verified()).toEqual([]);
});
