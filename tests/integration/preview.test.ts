import { eq } from 'drizzle-orm';
import { makers } from '@/demo/papers';
import { Prose } from '@/demo/prose';
import { Chance } from '@/core/chance/chance';
import { fileBuffer } from '@/demo/file';
import { countWords } from '@/core/text/words';
import type { Actor } from '@/server/gate/actor';
import { db } from '@/server/db/client';
import { document, preview, version } from '@/server/db/schema';
import { pictureFor } from '@/server/documents/content';
import { makePreview } from '@/server/extraction/preview';
import { Refusal } from '@/core/errors/refusal';
import { dropLibrary, freshLibrary, furnished, newcomer } from '../library';

let keeper: Actor;
let outsider: Actor;
let placeId: string;
const draft = {
  title: 'Survey of the north wall',
  subtitle: 'Works & dredging',
  written: new Date('2026-07-14T00:00:00Z'),
  author: 'Kea Keeper',
  paragraphs: new Prose(new Chance(5)).paragraphs(3, 5),
  figures: new Prose(new Chance(6)).figures(4),
};

beforeAll(async () => {
  keeper = await freshLibrary();
  outsider = await newcomer(keeper, 'Out Sider');
  placeId = (await furnished(keeper)).year.id;
});
afterAll(dropLibrary);

/** Files content and has the worker's own work done on it; what the ledger then knows of it. */
async function looked(fileName: string, content: Buffer) {
  const id = await fileBuffer(keeper, placeId, fileName, content);
  const [row] = await db().select({ sha256: version.sha256 }).from(version).where(eq(version.documentId, id));
  await makePreview(row?.sha256 ?? '');
  const [paper] = await db()
    .select({ pages: document.pageCount, words: document.wordCount, stamp: document.stamp })
    .from(document)
    .where(eq(document.id, id));
  return { id, sha256: row?.sha256 ?? '', ...paper };
}
const made = (ending: string): Promise<Buffer> => {
  const maker = makers[ending];
  if (!maker) throw new Error(`Nobody makes .${ending}`);
  return maker(draft);
};
const hasPicture = async (id: string): Promise<boolean> =>
  pictureFor(keeper, id).then(
    ({ picture }) => picture.subarray(0, 3).toString('hex') === 'ffd8ff',
    () => false,
  );

it('counts the pages and words of a PDF, and pictures its first page as a JPEG', async () => {
  const paper = await looked('survey.pdf', await made('pdf'));
  expect(paper.pages).toBeGreaterThan(0);
  const written = countWords([draft.title, ...draft.paragraphs].join('\n'));
  // The maker sets a heading, a date and page numbers around what was written.
  expect(paper.words).toBeGreaterThanOrEqual(written);
  expect(await hasPicture(paper.id)).toBe(true);
});

it('counts the words of a text document and of plain text, which have no pages here', async () => {
  const docx = await looked('survey.docx', await made('docx'));
  expect(docx.pages).toBeNull();
  expect(docx.words).toBeGreaterThanOrEqual(countWords(draft.paragraphs.join('\n')));
  const plain = await looked('note.txt', Buffer.from("The tide table isn't here: 1,234.50 m\n"));
  expect(plain.words).toBe(countWords("The tide table isn't here: 1,234.50 m"));
  expect(await hasPicture(plain.id)).toBe(false);
});

it('knows the pages of a scan and pictures an image, and counts no words in either', async () => {
  const scan = await looked('scan.tif', await made('tif'));
  expect([scan.pages, scan.words, scan.stamp]).toEqual([expect.any(Number), null, 'SCAN']);
  const image = await looked('plan.png', await made('png'));
  expect([image.pages, image.words]).toEqual([1, null]);
  expect(await hasPicture(image.id)).toBe(true);
});

it('makes nothing of what cannot be read, and looks at it no second time', async () => {
  const broken = await looked('broken.pdf', Buffer.from('%PDF-1.7\nthis is no page\n'));
  expect([broken.pages, broken.words, await hasPicture(broken.id)]).toEqual([null, null, false]);
  const [row] = await db().select({ madeAt: preview.madeAt }).from(preview).where(eq(preview.sha256, broken.sha256));
  await makePreview(broken.sha256);
  const [again] = await db().select({ madeAt: preview.madeAt }).from(preview).where(eq(preview.sha256, broken.sha256));
  expect(again).toEqual(row);
});

it('gives what is known of content to a paper that is filed with it later', async () => {
  const first = await looked(
    'first.pdf',
    (await makers['pdf']?.({ ...draft, title: 'Twice filed' })) ?? Buffer.alloc(0),
  );
  const content = await makers['pdf']?.({ ...draft, title: 'Twice filed' });
  const id = await fileBuffer(keeper, placeId, 'second.pdf', content ?? Buffer.alloc(0));
  const [second] = await db()
    .select({ pages: document.pageCount, words: document.wordCount })
    .from(document)
    .where(eq(document.id, id));
  expect(second).toEqual({ pages: first.pages, words: first.words });
});

it('shows the picture to nobody else', async () => {
  const paper = await looked('secret.pdf', await made('pdf'));
  const refused = await pictureFor(outsider, paper.id).catch((error: unknown) =>
    error instanceof Refusal ? error.issue.kind : String(error),
  );
  const madeUp = await pictureFor(outsider, '00000000-0000-4000-8000-000000000000').catch((error: unknown) =>
    error instanceof Refusal ? error.issue.kind : String(error),
  );
  expect([refused, madeUp]).toEqual(['not-found', 'not-found']);
});
