import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import sharp from 'sharp';
import { escapeXml, longDay, wrapped, type Draft, type Maker } from './paper';

/** A page set in type, as a drawing that sharp can turn into pixels. */
function typedPage(draft: Draft, width: number, height: number): Buffer {
  const lines = [
    'SALTMARROW HARBOUR TRUST',
    '',
    draft.title,
    `${draft.subtitle}, ${longDay(draft.written)}`,
    '',
    ...draft.paragraphs.flatMap((paragraph) => [...wrapped(paragraph, 64), '']),
    `Signed: ${draft.author}`,
  ];
  const rows = lines
    .map((line, index) => `<text x="90" y="${120 + index * 30}" font-size="21">${escapeXml(line)}</text>`)
    .join('');
  return Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" font-family="Liberation Serif, DejaVu Serif, serif"><rect width="100%" height="100%" fill="#fdfcf7"/><g transform="rotate(0.6)">${rows}</g></svg>`,
  );
}

/** A scanned page: grey, a little askew, as TIFF. */
export async function makeScan(draft: Draft): Promise<Buffer> {
  return sharp(typedPage(draft, 900, 1270))
    .greyscale()
    .blur(0.4)
    .tiff({ compression: 'lzw' })
    .toBuffer();
}

/** A photograph's stand-in: quay, water and sky drawn from the draft's own letters, with its title beneath. */
export async function makePicture(draft: Draft): Promise<Buffer> {
  const seed = [...draft.title].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) % 997, 7);
  const tide = 300 + (seed % 140);
  const piles = Array.from({ length: 6 }, (_each, index) => 60 + index * 118 + ((seed * (index + 3)) % 40));
  const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="560" font-family="DejaVu Sans, sans-serif">
    <rect width="800" height="560" fill="hsl(${190 + (seed % 30)} 28% 78%)"/>
    <rect y="${tide}" width="800" height="${560 - tide}" fill="hsl(${185 + (seed % 20)} 30% 34%)"/>
    ${piles.map((x) => `<rect x="${x}" y="${tide - 110}" width="22" height="230" fill="#4a3f33"/>`).join('')}
    <rect y="${tide - 90}" width="800" height="26" fill="#7b6a55"/>
    <text x="24" y="536" font-size="20" fill="#f4f4ee">${escapeXml(draft.title)}</text></svg>`;
  return sharp(Buffer.from(drawing)).png().toBuffer();
}

/** The same picture in another format. */
export const makePictureAs =
  (format: 'jpeg' | 'webp' | 'gif'): Maker =>
  async (draft) =>
    sharp(await makePicture(draft))
      .toFormat(format)
      .toBuffer();

/** The same picture as telephones take it (HEIF, ISO/IEC 23008-12), by the program that Debian ships for that. */
export const makeHeic: Maker = async (draft) => {
  const folder = await mkdtemp(path.join(tmpdir(), 'embrin-demo-'));
  try {
    const [from, into] = [path.join(folder, 'from.png'), path.join(folder, 'into.heic')];
    await writeFile(from, await makePicture(draft));
    await promisify(execFile)('heif-enc', ['-q', '60', '-o', into, from]);
    return await readFile(into);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};
