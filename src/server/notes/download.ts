import path from 'node:path';
import { refuse } from '@/core/errors/refusal';
import type { Content } from '../blobs/contentStore';
import { contentFile, inFolder, madeBytes } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { convertOffice } from '../cage/office';
import { readCaged } from '../cage/reader';

/** The files as which a note can be downloaded, beside the web page that it is. */
export const noteFiles = {
  docx: { mediaType: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document', output: 'word' },
  pdf: { mediaType: 'application/pdf', output: 'pages' },
  md: { mediaType: 'text/markdown', output: null },
} as const;
export type NoteFile = keyof typeof noteFiles;

/** A note, or another web page, as a file of another kind. The caller has passed the gate. */
export async function noteAs(content: Content & { readonly mediaType: string }, as: NoteFile): Promise<Buffer> {
  if (content.mediaType !== 'text/html')
    refuse('kind-refused', 'Only notes can be downloaded as another kind of file.');
  const made = await inFolder(async (folder) => {
    const file = await contentFile(folder, content);
    const { output } = noteFiles[as];
    if (output === null) {
      await readCaged('noteAsMarkdown', file, {});
      return madeBytes(path.join(folder, 'note.md'));
    }
    await readCaged('markup', file, { form: 'html' });
    const end = await convertOffice(path.join(folder, 'pages.html'), 'HTML (StarWriter)', output, 'made');
    return end === 'done' ? madeBytes(path.join(folder, 'made')) : null;
  }).catch((error: unknown) => {
    if (!(error instanceof CagedFault)) throw error;
    return null;
  });
  return made ?? refuse('unavailable', 'The file could not be made just now. Try again.');
}
