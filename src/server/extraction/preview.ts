import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { and, eq, isNull, sql } from 'drizzle-orm';
import sharp from 'sharp';
import { blobStore } from '../blobs/blobStore';
import { db } from '../db/client';
import { wordsIn } from './words';
import { blob, document, preview, version } from '../db/schema';
import { apart } from '../db/transaction';

const run = promisify(execFile);

/** The longer side of a first page's picture, in pixels. */
const pictureSize = 560;
/** Larger content is not taken into memory for a picture. */
const greatestBytes = 200_000_000;
const limits = { timeout: 60_000, maxBuffer: 8_000_000 };

interface Preview {
  readonly pageCount: number | null;
  readonly picture: Buffer | null;
  readonly wordCount: number | null;
}

const nothing: Preview = { pageCount: null, picture: null, wordCount: null };

/** Makes the picture and counts the pages of some content, once; papers with that content take the count over. */
export async function makePreview(sha256: string): Promise<void> {
  const [there] = await db().select({ sha256: preview.sha256 }).from(preview).where(eq(preview.sha256, sha256));
  if (there) return;
  const [found] = await db()
    .select({ contentId: blob.contentId, sizeBytes: blob.sizeBytes, mediaType: version.mediaType })
    .from(blob)
    .innerJoin(version, eq(version.sha256, blob.sha256))
    .where(eq(blob.sha256, sha256))
    .limit(1);
  if (!found) return;
  const made = found.sizeBytes > greatestBytes ? nothing : await previewOf(found);
  await apart(async (tx) => {
    await tx
      .insert(preview)
      .values({ sha256, ...made })
      .onConflictDoNothing();
    if (made.pageCount === null && made.wordCount === null) return;
    await tx
      .update(document)
      .set({ pageCount: made.pageCount, wordCount: made.wordCount })
      .where(
        and(
          isNull(document.pageCount),
          isNull(document.wordCount),
          sql`${document.versionId} in (select ${version.id} from ${version} where ${version.sha256} = ${sha256})`,
        ),
      );
  });
}

/** Content that cannot be read has no picture; that is no fault of the library's. */
async function previewOf(found: { contentId: string; sizeBytes: number; mediaType: string }): Promise<Preview> {
  const { mediaType } = found;
  const pieces: Buffer[] = [];
  for await (const piece of blobStore.read(found.contentId, 0, found.sizeBytes)) pieces.push(piece);
  const content = Buffer.concat(pieces);
  try {
    if (mediaType === 'application/pdf') return await pdfPreview(content);
    if (mediaType.startsWith('image/')) return await imagePreview(content);
    return { ...nothing, wordCount: await wordsIn(content, mediaType, null) };
  } catch {
    return nothing;
  }
}

async function pdfPreview(content: Buffer): Promise<Preview> {
  const folder = await mkdtemp(path.join(tmpdir(), 'embrin-preview-'));
  try {
    const file = path.join(folder, 'paper.pdf');
    await writeFile(file, content);
    const info = await run('pdfinfo', [file], limits);
    const pages = /^Pages:\s+(?<count>\d+)$/mu.exec(info.stdout)?.groups?.['count'];
    await run(
      'pdftocairo',
      [
        '-jpeg',
        '-singlefile',
        '-f',
        '1',
        '-l',
        '1',
        '-scale-to',
        String(pictureSize),
        file,
        path.join(folder, 'first'),
      ],
      limits,
    );
    return {
      pageCount: pages === undefined ? null : Number(pages),
      wordCount: await wordsIn(content, 'application/pdf', file),
      picture: await readFile(path.join(folder, 'first.jpg')),
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function imagePreview(content: Buffer): Promise<Preview> {
  const { pages } = await sharp(content).metadata();
  const picture = await sharp(content)
    .rotate()
    .resize(pictureSize, pictureSize, { fit: 'inside', withoutEnlargement: true })
    .flatten({ background: 'white' })
    .jpeg({ quality: 80 })
    .toBuffer();
  return { pageCount: pages ?? 1, picture, wordCount: null };
}
