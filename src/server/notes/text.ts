import { createHash } from 'node:crypto';
import path from 'node:path';
import { refuse } from '@/core/errors/refusal';
import { bytesFile, contentFile, inFolder, madeBytes } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { readCaged } from '../cage/reader';
import type { Content } from '../blobs/contentStore';

/** Kinds of content of which a note can be made. */
const forms = {
  'text/html': 'html',
  'application/vnd.openxmlformats-officedocument.wordprocessingml.document': 'docx',
} as const;

/** Whether a note can be made of content of this kind. */
export const mayBeNote = (mediaType: string): mediaType is keyof typeof forms => Object.hasOwn(forms, mediaType);

/** What a note begins with: its first change, and what of its source is not in it. */
export interface Begun {
  readonly change: Buffer;
  readonly notKept: readonly string[];
}

/** Makes a note's first change of content: read in a caged process. @throws Refusal in words where it cannot be made */
export async function begunFrom(content: Content & { readonly mediaType: string }): Promise<Begun> {
  const { mediaType } = content;
  if (!mayBeNote(mediaType)) refuse('kind-refused', 'Only Word documents (.docx) and notes can be opened as a note.');
  return begun(forms[mediaType], (folder) => contentFile(folder, content));
}

/** The same of markup of ours. */
export const begunWith = (markup: string): Promise<Begun> =>
  begun('html', (folder) => bytesFile(folder, Buffer.from(markup)));

function begun(form: 'html' | 'docx', file: (folder: string) => Promise<string>): Promise<Begun> {
  return caged(async (folder) => {
    const told = await readCaged('beginNote', await file(folder), { form });
    const change = await madeBytes(path.join(folder, 'change'));
    if (!told || !change) refuse('kind-refused', 'This document is damaged: no note can be made of it.');
    return { change, notKept: told.notKept };
  });
}

/** A note's text as a file, and all its changes as one. */
export interface Joined {
  readonly page: Buffer;
  readonly sha256: string;
  readonly change: Buffer;
}

/** Joins the changes of a note, in a caged process. */
export function joined(title: string, changes: readonly Buffer[]): Promise<Joined> {
  return caged(async (folder) => {
    const list = JSON.stringify(changes.map((each) => each.toString('base64')));
    await readCaged('keepNote', await bytesFile(folder, Buffer.from(list)), { title });
    const page = await madeBytes(path.join(folder, 'note.html'));
    const change = await madeBytes(path.join(folder, 'change'));
    if (!page || !change) throw new CagedFault('brokeOff');
    return { page, change, sha256: createHash('sha256').update(page).digest('hex') };
  });
}

/** A line that goes into a note, as its caged task takes it. */
export interface NoteLine {
  readonly number: string;
  readonly heading: string;
  readonly markup: string;
  readonly replaces: string | null;
}

/** The change that puts lines into a note, in a caged process. */
export function changeWith(changes: readonly Buffer[], lines: readonly NoteLine[]): Promise<Buffer> {
  return caged(async (folder) => {
    const asked = JSON.stringify({ changes: changes.map((each) => each.toString('base64')), lines });
    await readCaged('addToNote', await bytesFile(folder, Buffer.from(asked)), {});
    const change = await madeBytes(path.join(folder, 'change'));
    if (!change) throw new CagedFault('brokeOff');
    return change;
  });
}

async function caged<T>(work: (folder: string) => Promise<T>): Promise<T> {
  return inFolder(work).catch((error: unknown) => {
    if (!(error instanceof CagedFault)) throw error;
    return refuse('too-large', 'This text is too long for a note, or takes too long to be read.');
  });
}
