import { strToU8, zipSync } from 'fflate';
import type { Draft } from './paper';
import { makeCsv, makeText } from './text';

/** A ZIP archive with a text and a table in it, dated as the draft is. */
export async function makeZip(draft: Draft): Promise<Buffer> {
  const [text, table] = await Promise.all([makeText(draft), makeCsv(draft)]);
  const files = {
    [`${draft.title}/Cover note.txt`]: new Uint8Array(text),
    [`${draft.title}/Figures.csv`]: new Uint8Array(table),
    [`${draft.title}/Read first.txt`]: strToU8(draft.paragraphs[0] ?? ''),
  };
  return Buffer.from(zipSync(files, { mtime: draft.written }));
}
