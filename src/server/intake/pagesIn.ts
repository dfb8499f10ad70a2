import { mkdir } from 'node:fs/promises';
import { eq } from 'drizzle-orm';
import { shownForm } from '@/core/reading/form';
import { contentColumns } from '../blobs/content';
import { CagedFault } from '../cage/limits';
import { readCaged } from '../cage/reader';
import { db } from '../db/client';
import { blob } from '../db/schema';
import { OpenContent } from '../extraction/openContent';

/** The pages of an arrival as a PDF in a folder, which is made. What is neither a PDF nor a picture has to be read before. @throws CagedFault where it has none */
export async function pagesIn(
  { sha256, mediaType }: { readonly sha256: string; readonly mediaType: string },
  folder: string,
): Promise<{ readonly file: string; readonly pages: number }> {
  const [content] = await db().select(contentColumns).from(blob).where(eq(blob.sha256, sha256));
  if (!content) throw new CagedFault('brokeOff');
  await mkdir(folder, { recursive: true });
  const open = new OpenContent({ ...content, mediaType }, folder, false);
  if (shownForm(mediaType) === 'picture') {
    const { pages } = await readCaged('asSheets', await open.file(), {});
    if (pages === 0) throw new CagedFault('brokeOff');
    return { file: open.within('sheets.pdf'), pages };
  }
  const file = await open.pages();
  const info = await open.info();
  if (file === null || info === null || typeof info === 'string') throw new CagedFault('brokeOff');
  return { file, pages: info.pages };
}
