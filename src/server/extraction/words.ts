import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import mammoth from 'mammoth';
import { countWords } from '@/core/text/words';

const run = promisify(execFile);
/** More text than this is not counted word by word. In characters. */
const mostText = 20_000_000;
const docx = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';

/** How many words some content has; null for kinds whose text is not read yet. `file` is where it lies on disk, for a PDF. */
export async function wordsIn(content: Buffer, mediaType: string, file: string | null): Promise<number | null> {
  const text = await textOf(content, mediaType, file).catch(() => null);
  return text === null || text.length > mostText ? null : countWords(text);
}

async function textOf(content: Buffer, mediaType: string, file: string | null): Promise<string | null> {
  if (mediaType === 'application/pdf' && file !== null) {
    const { stdout } = await run('pdftotext', ['-enc', 'UTF-8', file, '-'], { timeout: 60_000, maxBuffer: 64_000_000 });
    return stdout;
  }
  if (mediaType === docx) return (await mammoth.extractRawText({ buffer: content })).value;
  if (mediaType === 'text/plain' || mediaType === 'text/csv') return new TextDecoder().decode(content);
  return null;
}
