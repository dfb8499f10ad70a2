import { pageLimits } from '../cage/limits';
import { runProgram } from '../cage/program';

/** What a PDF says of itself; or why it does not open. */
export type PdfInfo =
  { readonly pages: number; readonly title: string | null; readonly author: string | null } | 'protected' | 'damaged';

/** Asks a PDF in a folder about itself. @throws CagedFault */
export async function pdfInfo(file: string, folder: string): Promise<PdfInfo> {
  const end = await runProgram('pdfinfo', ['-enc', 'UTF-8', file], folder, pageLimits);
  if (!end.ok) return /incorrect password/iu.test(end.complaint) ? 'protected' : 'damaged';
  const field = (name: string): string | null =>
    new RegExp(`^${name}:[ \\t]+(?<value>.+)$`, 'mu').exec(end.printed)?.groups?.['value']?.trim() || null;
  const pages = Number(field('Pages'));
  if (!Number.isInteger(pages) || pages < 1) return 'damaged';
  return { pages, title: field('Title')?.slice(0, 300) ?? null, author: field('Author')?.slice(0, 300) ?? null };
}
