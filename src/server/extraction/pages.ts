import path from 'node:path';
import { madeBytes } from '../cage/file';
import { pageLimits } from '../cage/limits';
import { runProgram } from '../cage/program';
import { readCaged } from '../cage/reader';

/**
 * Draws a page (from 1) of a PDF, or of a picture or scan, as a JPEG; null if there is no such page, or it cannot be drawn.
 * @param longestSide in pixels
 * @throws CagedFault if drawing was stopped or crashed
 */
export async function drawPage(
  file: string,
  form: 'pages' | 'picture',
  page: number,
  longestSide: number,
): Promise<Buffer | null> {
  const folder = path.dirname(file);
  if (form === 'picture') {
    const { drawn } = await readCaged('picture', file, { page, longestSide });
    return drawn ? madeBytes(path.join(folder, 'picture')) : null;
  }
  const [number, side, into] = [String(page), String(longestSide), path.join(folder, `page-${page}`)];
  const words = ['-jpeg', '-singlefile', '-f', number, '-l', number, '-scale-to', side, file, into];
  const drawn = await runProgram('pdftocairo', words, folder, pageLimits);
  return drawn.ok ? madeBytes(`${into}.jpg`) : null;
}
