import { spawnSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { crc32 } from 'node:zlib';
import { eq } from 'drizzle-orm';
import { strToU8, zipSync } from 'fflate';
import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import type { Actor } from '@/server/gate/actor';
import { db } from '@/server/db/client';
import { readingStage } from '@/server/db/schema';
import { inFolder, madeBytes } from '@/server/cage/file';
import { CagedFault } from '@/server/cage/limits';
import { runProgram } from '@/server/cage/program';
import { readStages } from '@/server/extraction/read';
import { dropLibrary, freshLibrary, furnished } from '../library';
import { fileAndRead, made, viewOf } from '../reading';

let keeper: Actor;
let placeId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  placeId = (await furnished(keeper)).year.id;
});
afterAll(dropLibrary);

const filedAndRead = (fileName: string, content: Buffer) => fileAndRead(keeper, placeId, fileName, content);

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
