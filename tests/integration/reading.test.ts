import { spawnSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { and, eq } from 'drizzle-orm';
import { strToU8, zipSync } from 'fflate';
import sharp from 'sharp';
import { makers } from '@/demo/papers';
import { Prose } from '@/demo/prose';
import { Chance } from '@/core/chance/chance';
import { fileBuffer } from '@/demo/file';
import { viewForm, type ViewForm } from '@/core/reading/form';
import { readingOf } from '@/core/reading/stages';
import { countWords } from '@/core/text/words';
import type { Actor } from '@/server/gate/actor';
import { db, writableDb } from '@/server/db/client';
import { document, reading, readingPage, readingStage } from '@/server/db/schema';
import { contentFor } from '@/server/documents/content';
import { pictureFor } from '@/server/documents/cover';
import { inFolder, madeBytes } from '@/server/cage/file';
import { CagedFault } from '@/server/cage/limits';
import { runProgram } from '@/server/cage/program';
import { formOf } from '@/server/extraction/openContent';
import { readStages, resultsOf } from '@/server/extraction/read';
import { dropLibrary, freshLibrary, furnished, newcomer, refusedAs } from '../library';
import { readPaper } from '../reading';

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

/** Files content and has the worker's own work done on it; what is then known of it. */
async function filedAndRead(fileName: string, content: Buffer) {
  const id = await fileBuffer(keeper, placeId, fileName, content);
  const sha256 = await readPaper(id);
  const [paper] = await db()
    .select({ pages: document.pageCount, words: document.wordCount, stamp: document.stamp })
    .from(document)
    .where(eq(document.id, id));
  const texts = await db()
    .select({ words: readingPage.words })
    .from(readingPage)
    .where(eq(readingPage.sha256, sha256))
    .orderBy(readingPage.page);
  const [found] = await db().select().from(reading).where(eq(reading.sha256, sha256));
  return {
    id,
    sha256,
    ...paper,
    ...readingOf(await resultsOf(sha256), false),
    text: texts.map(({ words }) => words),
    found,
    hasPages: (await formOf(sha256, 'pages'))?.subarray(0, 5).toString('latin1') === '%PDF-',
    hasPicture: found?.picture?.subarray(0, 3).toString('hex') === 'ffd8ff',
  };
}

/** What `qpdf --check` (Debian's package qpdf) says of the pages that were made: 0 where nothing is wrong with them. */
async function soundPdf(sha256: string): Promise<number | null> {
  const file = path.join(await mkdtemp(path.join(tmpdir(), 'embrin-pages-')), 'pages.pdf');
  await writeFile(file, (await formOf(sha256, 'pages')) ?? '');
  const { status } = spawnSync('qpdf', ['--check', file]);
  await rm(path.dirname(file), { recursive: true });
  return status;
}

async function viewOf<F extends ViewForm['form']>(sha256: string, form: F): Promise<Extract<ViewForm, { form: F }>> {
  const view = viewForm.parse(JSON.parse((await formOf(sha256, 'view'))?.toString('utf8') ?? 'null'));
  if (view.form !== form) throw new Error(`It is shown as ${view.form}`);
  return view as Extract<ViewForm, { form: F }>;
}

const made = (ending: string, over: Partial<typeof draft> = {}): Promise<Buffer> => {
  const maker = makers[ending];
  if (!maker) throw new Error(`Nobody makes .${ending}`);
  return maker({ ...draft, ...over });
};

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

  it('a scan is read by OCR, page by page', async () => {
    const paper = await filedAndRead('scan.tif', await made('tif'));
    expect(paper).toMatchObject({ stamp: 'SCAN', hasPicture: true });
    expect(paper.text).toHaveLength(paper.pages ?? 0);
    expect(paper.text.join(' ')).toMatch(/survey of the north wall/iu);
  });

  it('a picture with nothing written in it has nothing to read in it', async () => {
    const blank = await sharp({ create: { width: 400, height: 300, channels: 3, background: '#9db' } })
      .png()
      .toBuffer();
    expect(await filedAndRead('plan.png', blank)).toMatchObject({
      state: 'nothing',
      pages: 1,
      words: null,
      hasPicture: true,
    });
  });
});

describe('what cannot be read', () => {
  it('is said to be damaged, and is not tried again', async () => {
    const broken = await filedAndRead('broken.pdf', Buffer.from('%PDF-1.7\nthis is no page\n'));
    expect(broken).toMatchObject({ state: 'unreadable', why: 'damaged', pages: null, words: null, hasPicture: false });
    const madeAt = () =>
      db().select({ at: readingStage.madeAt }).from(readingStage).where(eq(readingStage.sha256, broken.sha256));
    const before = await madeAt();
    await readStages(broken.sha256);
    expect(await madeAt()).toEqual(before);
  });

  it('is said to be damaged where a document is no document', async () => {
    const bytes = zipSync({
      '[Content_Types].xml': strToU8(
        '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
      ),
      'word/document.xml': strToU8('<broken'),
    });
    const paper = await filedAndRead('broken.docx', Buffer.from(bytes));
    expect(paper).toMatchObject({ state: 'unreadable', why: 'damaged' });
  });
});

describe('content that means harm, or is only awkward', () => {
  it('a PDF with a password is said to be protected', async () => {
    const folder = await mkdtemp(path.join(tmpdir(), 'embrin-protected-'));
    const [plain, locked] = [path.join(folder, 'plain.pdf'), path.join(folder, 'locked.pdf')];
    await writeFile(plain, await made('pdf', { title: 'Locked' }));
    expect(spawnSync('qpdf', ['--encrypt', 'sesame', 'owner', '256', '--', plain, locked]).status).toBe(0);
    const paper = await filedAndRead('locked.pdf', await readFile(locked));
    await rm(folder, { recursive: true });
    expect(paper).toMatchObject({ state: 'unreadable', why: 'protected', pages: null });
  });

  it('one line of 50 MB is read as far as its beginning goes', async () => {
    const paper = await filedAndRead('line.txt', Buffer.alloc(50_000_000, 'abcdefghi é'));
    expect(paper).toMatchObject({ state: 'readInPart', why: 'cut', hasPicture: true });
    expect((await viewOf(paper.sha256, 'text')).text).toMatch(/^abcdefghi éabc/u);
  });

  it('a mail of 250 attachments and broken headers keeps 200 of them, and says how many more there are', async () => {
    const part = (at: number) =>
      `--b\r\nContent-Type: text/plain\r\nContent-Disposition: attachment; filename="../..\\n${at}.txt"\r\n\r\nnumber ${at}\r\n`;
    const parts = Array.from({ length: 250 }, (_each, at) => part(at)).join('');
    const broken = 'X-Broken\u0001: =?utf-8?q?=ZZ?=\r\nDate: the day after tomorrow\r\n';
    const content = Buffer.from(
      `From: a@example.org\r\nSubject: Many\r\n${broken}Content-Type: multipart/mixed; boundary=b\r\n\r\n${parts}--b--\r\n`.replace(
        '\u0001',
        '',
      ),
    );
    const paper = await filedAndRead('many.eml', content);
    expect(paper).toMatchObject({ state: 'readInPart', why: 'cut' });
    const view = await viewOf(paper.sha256, 'mail');
    expect(view).toMatchObject({ moreAttachments: 50, sentAt: null });
    expect(view.attachments).toHaveLength(200);
    for (const { name } of view.attachments) expect(name).not.toMatch(/[/\\]/u);
  });

  it('a document whose entities unfold without end, and links outside, brings neither along', async () => {
    const entities = Array.from({ length: 9 }, (_each, at) => `<!ENTITY e${at + 1} "${`&e${at};`.repeat(10)}">`).join(
      '',
    );
    const xml = `<?xml version="1.0"?><!DOCTYPE d [<!ENTITY e0 "ha"><!ENTITY out SYSTEM "file:///etc/passwd">${entities}]>
      <w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body><w:p><w:r><w:t>&out;&e9;</w:t></w:r></w:p></w:body></w:document>`;
    const types =
      '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>';
    const rels =
      '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>';
    const bytes = zipSync({
      '[Content_Types].xml': strToU8(types),
      '_rels/.rels': strToU8(rels),
      'word/document.xml': strToU8(xml),
    });
    const paper = await filedAndRead('entities.docx', Buffer.from(bytes));
    expect(['read', 'readInPart', 'nothing', 'unreadable']).toContain(paper.state);
    expect(paper.text.join('').length).toBeLessThan(100_000);
    expect(paper.text.join('')).not.toContain('root:');
  });

  it('a caged program sees neither the network nor anything of the library', async () => {
    await inFolder(async (folder) => {
      const see = async (words: string) => runProgram('bash', ['-c', words], folder);
      expect(await see('cat /proc/net/dev | tail -n +3 | grep -v " lo:"')).toMatchObject({ ok: false });
      for (const hidden of [process.cwd(), '/etc/passwd', '/var/lib/postgresql', '/root'])
        expect(await see(`ls ${hidden}`)).toMatchObject({ ok: false });
      expect(await see('echo here > made && cat made')).toEqual({ ok: true, printed: 'here\n' });
    });
  });

  it('a link that a caged program leaves in place of a file is not followed', async () => {
    await inFolder(async (folder) => {
      await runProgram('bash', ['-c', 'ln -s /etc/hostname made'], folder);
      await expect(madeBytes(path.join(folder, 'made'))).rejects.toThrow(CagedFault);
    });
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
    ).toEqual(['facts', 'text']);
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
