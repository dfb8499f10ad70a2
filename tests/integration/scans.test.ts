import { spawnSync } from 'node:child_process';
import { readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import type { Actor } from '@/server/gate/actor';
import { inFolder } from '@/server/cage/file';
import { formOf } from '@/server/extraction/openContent';
import { changeSettings, librarySettings } from '@/server/library/settings';
import { findInPaper, spotsInPaper } from '@/server/reading/find';
import { dropLibrary, freshLibrary, furnished } from '../library';
import { draft, fileAndRead, made } from '../reading';

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
let placeId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  placeId = (await furnished(keeper)).year.id;
});
afterAll(dropLibrary);

const filedAndRead = (fileName: string, content: Buffer) => fileAndRead(keeper, placeId, fileName, content);

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

describe('a scan', () => {
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
    const kept = {
      name,
      timeZone,
      yearStartMonth,
      yearLabels,
      maxFileBytes,
      families: [...families],
      trayDays: null,
      backupEveryDays: null,
      exportDays: 7,
    };
    await changeSettings(keeper, { ...kept, scanLanguages: ['eng', 'deu'], revision });
    const after = await filedAndRead('after.png', await sharp(german).modulate({ brightness: 0.99 }).png().toBuffer());
    const umlauts = (paper: { text: string[] }) =>
      paper.text.join(' ').match(/Größe|Brücke|überschritt|zulässige|Höhe|für|über|fünf|Fuß/gu)?.length ?? 0;
    expect(umlauts(after)).toBeGreaterThan(umlauts(before));
    expect(umlauts(after)).toBeGreaterThanOrEqual(7);
    await changeSettings(keeper, { ...kept, scanLanguages: ['eng'], revision: revision + 1 });
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
