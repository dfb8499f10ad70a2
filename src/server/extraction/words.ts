import { countWords } from '@/core/text/words';
import { runProgram } from '../cage/program';
import { readCaged } from '../cage/reader';

const docx = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';

/**
 * How many words some content has; null for kinds whose text is not read yet. `file` is where it lies on disk.
 * @throws CagedFault where reading it came to no end
 */
export async function wordsIn(file: string, mediaType: string): Promise<number | null> {
  if (mediaType === 'application/pdf') {
    const text = await runProgram('pdftotext', ['-enc', 'UTF-8', file, '-']);
    return text === null ? null : countWords(text);
  }
  if (mediaType !== docx && mediaType !== 'text/plain' && mediaType !== 'text/csv') return null;
  return readCaged('words', { file, mediaType });
}
