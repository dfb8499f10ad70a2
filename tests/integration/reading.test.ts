import { spawnSync } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { and, eq } from 'drizzle-orm';
import { strToU8, zipSync } from 'fflate';
import { makers } from '@/demo/papers';
import { fileBuffer } from '@/demo/file';
import { countWords } from '@/core/text/words';
import type { Actor } from '@/server/gate/actor';
import { db, writableDb } from '@/server/db/client';
import { document, readingPage, readingStage } from '@/server/db/schema';
import { contentFor } from '@/server/documents/content';
import { fileAttachment } from '@/server/uploads/fileAttachment';
import { pictureFor } from '@/server/documents/cover';
import { formOf } from '@/server/extraction/openContent';
import { readStages } from '@/server/extraction/read';
import { dropLibrary, freshLibrary, furnished, newcomer, refusedAs } from '../library';
import { draft, fileAndRead, made, viewOf } from '../reading';

let keeper: Actor;
let outsider: Actor;
let placeId: string;
beforeAll(async () => {
  keeper = await freshLibrary();
  outsider = await newcomer(keeper, 'Out Sider');
  placeId = (await furnished(keeper)).year.id;
});
afterAll(dropLibrary);

const filedAndRead = (fileName: string, content: Buffer) => fileAndRead(keeper, placeId, fileName, content);

/** What `qpdf --check` (Debian's package qpdf) says of the pages that were made: 0 where nothing is wrong with them. */
async function soundPdf(sha256: string): Promise<number | null> {
  const file = path.join(await mkdtemp(path.join(tmpdir(), 'embrin-pages-')), 'pages.pdf');
  await writeFile(file, (await formOf(sha256, 'pages')) ?? '');
  const { status } = spawnSync('qpdf', ['--check', file]);
  await rm(path.dirname(file), { recursive: true });
  return status;
}

describe('a paper with pages', () => {
  it.each(['pdf', 'docx', 'odt', 'pptx', 'rtf'])(
    'of kind .%s is read: pages, words, a picture, what it says',
    async (ending) => {
      const paper = await filedAndRead(`survey.${ending}`, await made(ending));
      expect(paper).toMatchObject({ state: 'read', why: null, hasPicture: true });
      expect(paper.pages).toBeGreaterThan(0);
      expect(paper.text).toHaveLength(paper.pages ?? 0);
      // The maker sets a heading, a date and page numbers around what was written.
      expect(paper.words).toBeGreaterThanOrEqual(countWords(draft.paragraphs.join('\n')));
      expect(paper.text.join(' ')).toContain('Survey of the north wall');
      expect(paper.found?.language).toBe('en');
      expect(paper.found?.summary.length).toBeGreaterThan(0);
      expect(paper.found?.keyWords.length).toBeGreaterThan(0);
      expect(paper.hasPages).toBe(ending !== 'pdf');
      if (paper.hasPages) expect(await soundPdf(paper.sha256)).toBe(0);
    },
  );

  it('knows the title and author that the file itself gives', async () => {
    const { found } = await filedAndRead('given.docx', await made('docx', { title: 'A title of its own' }));
    expect(found).toMatchObject({ title: 'A title of its own', author: 'Kea Keeper' });
  });
});

describe('a workbook', () => {
  it('is shown as sheets, as its number formats say, and its text is kept by sheet', async () => {
    const paper = await filedAndRead('accounts.xlsx', await made('xlsx'));
    expect(paper).toMatchObject({ why: null, state: 'read', pages: null, hasPages: true, hasPicture: true });
    const { sheets } = await viewOf(paper.sha256, 'sheets');
    const [sheet] = sheets;
    expect(sheet?.name).toBe('Survey of the north wall');
    expect(sheet?.rows[2]).toEqual(['Item', 'Pounds']);
    expect(sheet?.bold).toContain(2);
    const [what, pounds] = [draft.figures[0]?.what ?? '', draft.figures[0]?.pounds ?? 0];
    expect(sheet?.rows[3]).toEqual([what, pounds.toLocaleString('en-GB', { minimumFractionDigits: 2 })]);
    expect(sheet?.right[3]).toEqual([1]);
    expect(paper.text[0]).toContain(what);
  });

  it('as a CSV is shown as a table, in whatever encoding it came', async () => {
    const bytes = Buffer.from('Name;Größe\r\nMölle;12,5\r\n', 'latin1');
    const paper = await filedAndRead('masse.csv', bytes);
    expect(paper).toMatchObject({ state: 'read', hasPages: true, hasPicture: true });
    expect((await viewOf(paper.sha256, 'sheets')).sheets[0]).toMatchObject({
      rows: [
        ['Name', 'Größe'],
        ['Mölle', '12,5'],
      ],
      right: [[], [1]],
    });
  });
});

const mail = (parts: string): Buffer =>
  Buffer.from(
    `From: "Ida Quay" <ida@saltmarrow.example>\r\nTo: board@saltmarrow.example\r\nSubject: =?utf-8?q?The_caf=C3=A9?=\r\n` +
      `Date: Tue, 14 Jul 2026 09:30:00 +0100\r\nMIME-Version: 1.0\r\n${parts}`,
  );

describe('a mail', () => {
  const markup =
    '<p>Dear all</p><script>alert(1)</script><img src="https://elsewhere.example/seen.png"><a href="javascript:x()">go</a>' +
    '<p onclick="x()">See you at the slipway.</p>';
  const attached = Buffer.from('Dredging begins on Monday.\n').toString('base64');
  const content = mail(
    `Content-Type: multipart/mixed; boundary=b1\r\n\r\n--b1\r\nContent-Type: text/html; charset=utf-8\r\n\r\n${markup}\r\n` +
      `--b1\r\nContent-Type: text/plain; name="notice.txt"\r\nContent-Disposition: attachment; filename="notice.txt"\r\n` +
      `Content-Transfer-Encoding: base64\r\n\r\n${attached}\r\n--b1--\r\n`,
  );

  it('is shown with its head, a body in which nothing runs or is fetched, and its attachments', async () => {
    const paper = await filedAndRead('cafe.eml', content);
    expect(paper).toMatchObject({ state: 'read', hasPages: true, hasPicture: true, pages: null });
    const view = await viewOf(paper.sha256, 'mail');
    expect(view).toMatchObject({
      subject: 'The café',
      from: [{ name: 'Ida Quay', address: 'ida@saltmarrow.example' }],
      sentAt: '2026-07-14T08:30:00.000Z',
      attachments: [{ number: 1, name: 'notice.txt', mediaType: 'text/plain', stamp: 'TEXT' }],
    });
    expect(view.markup).toContain('See you at the slipway.');
    expect(view.markup).not.toMatch(/script|alert|onclick|elsewhere|javascript/iu);
    expect(paper.text.join(' ')).toMatch(/The café[^]*See you at the slipway/u);
  });

  it('lets its attachments be opened and read by whoever may see it, and nobody else', async () => {
    const { id, sha256 } = await filedAndRead('again.eml', content);
    const of = { documentId: id, version: null, attachment: 1 };
    const attachment = await contentFor(keeper, of, 'take');
    expect(attachment).toMatchObject({ fileName: 'notice.txt', mediaType: 'text/plain' });
    expect(attachment.sha256).not.toBe(sha256);
    await readStages(attachment.sha256);
    const [page] = await db().select().from(readingPage).where(eq(readingPage.sha256, attachment.sha256));
    expect(page?.words).toContain('Dredging begins on Monday.');
    expect(await refusedAs(contentFor(outsider, of, 'see'))).toBe('not-found');
    expect(await refusedAs(contentFor(keeper, { ...of, attachment: 2 }, 'see'))).toBe('not-found');
  });

  it('files an attachment as a paper of its own beside the mail, once, however often it is asked', async () => {
    const { id } = await filedAndRead('filed.eml', Buffer.from(content.toString().replace('The café', 'A third')));
    const asked = { documentId: id, attachment: 1 };
    const twice = await Promise.all([fileAttachment(keeper, asked), fileAttachment(keeper, asked)]);
    const again = await fileAttachment(keeper, asked);
    expect(again.wasThere).toBe(true);
    const [paper] = await db()
      .select({ title: document.title, homeId: document.homeId })
      .from(document)
      .where(eq(document.id, again.documentId));
    expect(paper).toEqual({ title: 'notice', homeId: placeId });
    expect(new Set([...twice, again].map(({ documentId }) => documentId)).size).toBe(1);
    expect(await refusedAs(fileAttachment(outsider, asked))).toBe('not-found');
    expect(await refusedAs(fileAttachment(keeper, { ...asked, attachment: 2 }))).toBe('not-found');
  });
});

describe('other kinds', () => {
  it('a web page is shown as safe markup', async () => {
    const page = `<!DOCTYPE html><html><head><title>Tide</title><style>p{color:red}</style></head><body>
      <h1>Tide tables</h1><iframe src="https://elsewhere.example"></iframe><svg onload="x()"></svg><p>High at noon.</p></body></html>`;
    const paper = await filedAndRead('tide.html', Buffer.from(page));
    expect(paper).toMatchObject({ state: 'read', stamp: 'TEXT', hasPages: true });
    const { markup } = await viewOf(paper.sha256, 'markup');
    expect(markup).toMatch(/<h1>Tide tables<\/h1>[^]*<p>High at noon\.<\/p>/u);
    expect(markup).not.toMatch(/iframe|svg|onload|style|color/iu);
  });

  it.each([
    ['UTF-16', Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('Übersicht über die Häfen', 'utf16le')])],
    ['Windows-1252', Buffer.from('Übersicht über die Häfen', 'latin1')],
    ['UTF-8', Buffer.from('Übersicht über die Häfen')],
  ])('a text in %s is read as what it says', async (encoding, bytes) => {
    const paper = await filedAndRead(`${encoding}.txt`, bytes);
    expect((await viewOf(paper.sha256, 'text')).text).toBe('Übersicht über die Häfen');
    expect(paper).toMatchObject({ state: 'read', words: 4, pages: null, hasPicture: true });
    expect(paper.text.join('')).toContain('Übersicht über die Häfen');
  });

  it.each([
    ['right to left', 'שלום עולם, זה מסמך קצר'],
    ['Chinese', '港口管理委员会会议记录'],
  ])('a text %s is laid out on pages with its own letters', async (name, text) => {
    const paper = await filedAndRead(`${name}.txt`, Buffer.from(text));
    expect(paper.state).toBe('read');
    // Lines run from left to right in what is read off a page; the letters are those that were written.
    const letters = (all: string) => [...all.normalize('NFKC').replace(/[^\p{L}]/gu, '')].sort().join('');
    expect(letters(paper.text.join(''))).toBe(letters(text));
  });

  it('an archive is shown as its list, and nothing in it is unpacked', async () => {
    const bytes = zipSync({ 'a/plan.txt': strToU8('x'), '../out.txt': strToU8('y') });
    const paper = await filedAndRead('papers.zip', Buffer.from(bytes));
    const view = await viewOf(paper.sha256, 'list');
    expect(view.entries.map(({ path }) => path)).toContain('a/plan.txt');
    expect(paper.text.join('')).toContain('plan.txt');
  });

  it('Markdown is shown as the page that it describes, without anything that runs', async () => {
    const text =
      '# Questions\n\n- one\n- two\n\n| a | b |\n| - | - |\n| 1 | 2 |\n\n<script>alert(1)</script>\n\n[x](javascript:alert(1))\n';
    const paper = await filedAndRead('questions.md', Buffer.from(text));
    const view = await viewOf(paper.sha256, 'markup');
    expect(view.markup).toContain('<h1>Questions</h1>');
    expect(view.markup).toContain('<td>1</td>');
    expect(view.markup).not.toMatch(/<script|href="javascript/iu);
  });

  it('a picture as telephones take it (HEIF) is drawn and read like any other', async () => {
    const heic = (await makers['heic']?.(draft)) ?? Buffer.alloc(0);
    expect(await filedAndRead('telephone.heic', heic)).toMatchObject({ stamp: 'IMAGE', pages: 1, hasPicture: true });
  });
});

describe('reading again', () => {
  it('runs only the stages whose program is new, and those that use them', async () => {
    const { sha256 } = await filedAndRead('renewed.txt', Buffer.from('The quay is repaired by autumn.'));
    const times = async () =>
      new Map(
        (await db().select().from(readingStage).where(eq(readingStage.sha256, sha256))).map(({ stage, madeAt }) => [
          stage,
          madeAt.getTime(),
        ]),
      );
    const before = await times();
    await writableDb()
      .update(readingStage)
      .set({ program: 0 })
      .where(and(eq(readingStage.sha256, sha256), eq(readingStage.stage, 'text')));
    await readStages(sha256);
    const after = await times();
    expect(
      [...after]
        .filter(([stage, at]) => at !== before.get(stage))
        .map(([stage]) => stage)
        .sort(),
    ).toEqual(['facts', 'terms', 'text']);
  });
});

it('gives what is known of content to a paper that is filed with it later', async () => {
  const content = await made('pdf', { title: 'Twice filed' });
  const first = await filedAndRead('first.pdf', content);
  const id = await fileBuffer(keeper, placeId, 'second.pdf', content);
  const [second] = await db()
    .select({ pages: document.pageCount, words: document.wordCount })
    .from(document)
    .where(eq(document.id, id));
  expect(second).toEqual({ pages: first.pages, words: first.words });
});

it('shows the picture to nobody else', async () => {
  const paper = await filedAndRead('secret.pdf', await made('pdf', { title: 'Secret' }));
  expect(await refusedAs(pictureFor(outsider, paper.id))).toBe('not-found');
  expect(await refusedAs(pictureFor(outsider, '00000000-0000-4000-8000-000000000000'))).toBe('not-found');
});
