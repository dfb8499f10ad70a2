import { countWords } from '@/core/text/words';
import { runProgram } from '../cage/program';
import { readCaged } from '../cage/reader';

const docx = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';

/**
 * Counts the words in a file; null for kinds whose text is not read.
 * @throws CagedFault if reading was stopped or crashed
 */
export async function wordsIn(file: string, mediaType: string): Promise<number | null> {
  if (mediaType === 'application/pdf') {
    const text = await runProgram('pdftotext', ['-enc', 'UTF-8', file, '-']);
    return text === null ? null : countWords(text);
  }
  if (mediaType !== docx && mediaType !== 'text/plain' && mediaType !== 'text/csv') return null;
  return readCaged('words', { file, mediaType });
}
