import { spawnSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { crc32 } from 'node:zlib';
import { and, eq } from 'drizzle-orm';
import { strToU8, zipSync } from 'fflate';
import { PDFDocument } from '@cantoo/pdf-lib';
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
import { fileAttachment } from '@/server/uploads/fileAttachment';
import { pictureFor } from '@/server/documents/cover';
import { inFolder, madeBytes } from '@/server/cage/file';
import { CagedFault } from '@/server/cage/limits';
import { runProgram } from '@/server/cage/program';
import { formOf } from '@/server/extraction/openContent';
import { changeSettings, librarySettings } from '@/server/library/settings';
import { findInPaper, spotsInPaper } from '@/server/reading/find';
import { readStages, resultsOf } from '@/server/extraction/read';
import { dropLibrary, freshLibrary, furnished, newcomer, refusedAs } from '../library';
import { readPaper } from '../reading';

/** A line of text as it comes from a scanner. */
const typedScan = (text: string): Promise<Buffer> =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="1700" height="400"><rect width="100%" height="100%" fill="#fff"/><text x="60" y="200" font-family="Liberation Serif" font-size="42">${text}</text></svg>`,
    ),
  )
    .png()
    .toBuffer();

/** A PDF of pictures of pages, without any text, as scanners write it. */
async function scannedPdf(lines: readonly string[]): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  for (const line of lines) {
    const picture = await pdf.embedPng(await typedScan(line));
    const page = pdf.addPage([612, 144]);
    page.drawImage(picture, { x: 0, y: 0, width: 612, height: 144 });
  }
  return Buffer.from(await pdf.save());
}

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

/** The share of the draft's words that reading finds in a picture of its page. */
async function rightlyRead(fileName: string, picture: Buffer): Promise<number> {
  const words = draft.paragraphs.join(' ').split(/\s+/u);
  const found = new Map<string, number>();
  const { text } = await filedAndRead(fileName, picture);
  for (const word of text.join(' ').split(/\s+/u)) found.set(word, (found.get(word) ?? 0) + 1);
  const right = words.filter((word) => {
    const left = found.get(word) ?? 0;
    found.set(word, left - 1);
    return left > 0;
  });
  return right.length / words.length;
}

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

  it('the words of a scan stand on its pages where they were read: to be selected, and found at their places', async () => {
    const paper = await filedAndRead('words of a scan.tif', await made('tif'));
    const pages = await formOf(paper.sha256, 'pages');
    if (!pages) throw new Error('No pages with words were made of the scan');
    await inFolder(async (folder) => {
      const file = path.join(folder, 'pages.pdf');
      await writeFile(file, pages);
      expect(spawnSync('qpdf', ['--check', file]).status).toBe(0);
      expect(spawnSync('pdftotext', [file, '-']).stdout.toString()).toMatch(/survey of the north wall/iu);
    });
    const target = { documentId: paper.id, version: null, attachment: null };
    expect((await findInPaper(keeper, { ...target, phrase: 'north wall' })).pages).toEqual([{ page: 1, count: 1 }]);
    const { spots } = await spotsInPaper(keeper, { ...target, phrase: 'north wall', page: 1 });
    // The maker draws its title at 180 of 1270 points from the top, 90 of 900 from the left.
    expect(spots).toHaveLength(1);
    for (const { top, left } of spots[0] ?? []) {
      expect(top).toBeGreaterThan(0.11);
      expect(top).toBeLessThan(0.16);
      expect(left).toBeGreaterThan(0.1);
    }
  });

  it('a PDF that is only pictures of pages gets its words laid over its own pages', async () => {
    const scanned = await scannedPdf(['The first sheet names the bollard.', 'The second sheet names the capstan.']);
    const paper = await filedAndRead('scanned.pdf', scanned);
    expect(paper.text.map((words) => words.trim())).toEqual([
      expect.stringContaining('bollard'),
      expect.stringContaining('capstan'),
    ]);
    const pages = await formOf(paper.sha256, 'pages');
    await inFolder(async (folder) => {
      const file = path.join(folder, 'pages.pdf');
      await writeFile(file, pages ?? '');
      expect(spawnSync('qpdf', ['--check', file]).status).toBe(0);
      const shown = spawnSync('pdftotext', ['-f', '2', '-l', '2', file, '-']).stdout.toString();
      expect(shown).toContain('capstan');
      // Its own pictures of pages, in full.
      const own = path.join(folder, 'own.pdf');
      await writeFile(own, scanned);
      const pictures = (of: string) => spawnSync('pdfimages', ['-list', of]).stdout.toString().split('\n').slice(2);
      expect(pictures(file).map((line) => line.slice(0, 45))).toEqual(pictures(own).map((line) => line.slice(0, 45)));
    });
    const { spots } = await spotsInPaper(keeper, {
      documentId: paper.id,
      version: null,
      attachment: null,
      phrase: 'capstan',
      page: 2,
    });
    expect(spots).toHaveLength(1);
  });

  it('reads 95 of 100 words of a poor scan right, and 98 of a good one', async () => {
    // 900 points across a page, askew and blurred: what an old machine in a corridor makes.
    expect(await rightlyRead('poor.tif', await made('tif'))).toBeGreaterThan(0.95);
    const good = await inFolder(async (folder) => {
      await writeFile(path.join(folder, 'set.pdf'), await made('pdf'));
      spawnSync('pdftocairo', ['-png', '-r', '200', '-singlefile', 'set.pdf', 'good'], { cwd: folder });
      return readFile(path.join(folder, 'good.png'));
    });
    expect(await rightlyRead('good.png', good)).toBeGreaterThan(0.98);
  });

  it('a scan is read in the languages that the library says', async () => {
    const german = await typedScan('Die Größe der Brücke überschritt die zulässige Höhe für Schiffe über fünf Fuß.');
    const before = await filedAndRead('before.png', german);
    const settings = await librarySettings();
    const { name, timeZone, yearStartMonth, yearLabels, maxFileBytes, families, revision } = settings;
    const kept = { name, timeZone, yearStartMonth, yearLabels, maxFileBytes, families: [...families] };
    await changeSettings(keeper, { ...kept, scanLanguages: ['eng', 'deu'], revision });
    const after = await filedAndRead('after.png', await sharp(german).modulate({ brightness: 0.99 }).png().toBuffer());
    const umlauts = (paper: { text: string[] }) =>
      paper.text.join(' ').match(/Größe|Brücke|überschritt|zulässige|Höhe|für|über|fünf|Fuß/gu)?.length ?? 0;
    expect(umlauts(after)).toBeGreaterThan(umlauts(before));
    expect(umlauts(after)).toBeGreaterThanOrEqual(7);
    await changeSettings(keeper, { ...kept, scanLanguages: ['eng'], revision: revision + 1 });
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

describe('content of an awkward size', () => {
  it('a PDF of 3,000 pages is read to its end', async () => {
    const pdf = await PDFDocument.create();
    const font = await pdf.embedFont('Helvetica');
    for (let page = 1; page <= 3000; page += 1)
      pdf.addPage([300, 200]).drawText(`Sheet ${page}`, { x: 20, y: 100, size: 14, font });
    const paper = await filedAndRead('long.pdf', Buffer.from(await pdf.save()));
    expect(paper).toMatchObject({ state: 'read', pages: 3000 });
    expect(paper.text[2999]).toContain('Sheet 3000');
  });

  it('a picture of 1 by 60,000 points, and one that says it has ten thousand million, stop nothing', async () => {
    const thin = await sharp({ create: { width: 1, height: 60_000, channels: 3, background: '#123' } })
      .png()
      .toBuffer();
    expect(await filedAndRead('thin.png', thin)).toMatchObject({ pages: 1 });
    const small = await sharp({ create: { width: 9, height: 9, channels: 3, background: '#123' } })
      .png()
      .toBuffer();
    const claim = Buffer.from(small);
    // Width and height of a PNG stand at 16 and 20 (PNG specification, section 11.2.1), the chunk's sum at 29.
    claim.writeUInt32BE(100_000, 16);
    claim.writeUInt32BE(100_000, 20);
    claim.writeUInt32BE(crc32(claim.subarray(12, 29)), 29);
    expect((await filedAndRead('vast.png', claim)).state).toBe('unreadable');
  });

  it('text right to left, in Chinese, and in other encodings is read as what it says', async () => {
    const hebrew = await filedAndRead('hebrew.txt', Buffer.from('שלום לכל דיירי הנמל, הרציף סגור ביום שני.'));
    expect(hebrew.text.join('')).toContain('הרציף');
    const chinese = await filedAndRead('chinese.txt', Buffer.from('港务局会议记录，二〇二六年七月。'));
    expect(chinese.words).toBeGreaterThan(3);
    const utf16 = await filedAndRead('utf16.txt', Buffer.from('\ufeffThe café on the quay', 'utf16le'));
    expect(utf16.text.join('')).toContain('café');
    const windows = await filedAndRead('windows.txt', Buffer.from('The caf\u00e9 on the quay \u0096 closed', 'latin1'));
    expect(windows.text.join('')).toContain('café on the quay – closed');
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
