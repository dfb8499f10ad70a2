import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { pageLimits } from '../cage/limits';
import { runProgram } from '../cage/program';
import { readCaged } from '../cage/reader';

/** A page as a JPEG, and the number of pages; null if it cannot be drawn or counted. */
export interface DrawnPage {
  readonly pageCount: number | null;
  readonly picture: Buffer | null;
}

const nothing: DrawnPage = { pageCount: null, picture: null };

/** Whether pages of this kind can be drawn. */
export const isDrawn = (mediaType: string): boolean =>
  mediaType === 'application/pdf' || mediaType.startsWith('image/') || isPlain(mediaType);

/** Plain text, including mail. */
const isPlain = (mediaType: string): boolean => mediaType.startsWith('text/') || mediaType === 'message/rfc822';

/**
 * Draws a page (from 1) of a PDF, picture or plain text.
 * @param longestSide in pixels
 * @throws CagedFault if drawing was stopped or crashed
 */
export async function drawPage(file: string, mediaType: string, page: number, longestSide: number): Promise<DrawnPage> {
  const into = path.join(path.dirname(file), `page-${page}`);
  if (mediaType === 'application/pdf') {
    const info = await runProgram('pdfinfo', [file], pageLimits);
    const pages = /^Pages:\s+(?<count>\d+)$/mu.exec(info ?? '')?.groups?.['count'];
    const [number, side] = [String(page), String(longestSide)];
    const words = ['-jpeg', '-singlefile', '-f', number, '-l', number, '-scale-to', side, file, into];
    const drawn = await runProgram('pdftocairo', words, pageLimits);
    return {
      pageCount: pages === undefined ? null : Number(pages),
      picture: drawn === null ? null : await readFile(`${into}.jpg`).catch(() => null),
    };
  }
  if (isPlain(mediaType)) {
    const { pages, drawn } = await readCaged('textPicture', { file, into, page });
    return { pageCount: pages, picture: drawn ? await readFile(into) : null };
  }
  if (!mediaType.startsWith('image/')) return nothing;
  const { pages, drawn } = await readCaged('picture', { file, into, page, longestSide });
  return { pageCount: pages === 0 ? null : pages, picture: drawn ? await readFile(into) : null };
}
