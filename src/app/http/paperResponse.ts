import { z } from 'zod';
import { readerMark } from '@/core/reading/mark';
import { refuse } from '@/core/errors/refusal';
import { now } from '@/server/base/clock';
import type { Content } from '@/server/blobs/contentStore';
import { markedPageOf, pageOf } from '@/server/documents/pages';
import { keptForm } from '@/server/extraction/forms';
import { librarySettings } from '@/server/library/settings';
import { noteAs, noteFiles, type NoteFile } from '@/server/notes/download';
import { contentResponse, servedContent, type Served } from './contentResponse';
import { pageResponse } from './pageResponse';

/** What can be asked of a paper's content by its address. */
export const contentQuery = z.object({
  /** A version's number; the current one where it is left out. */
  version: z.coerce.number().int().positive().max(1_000_000).nullish(),
  /** The number of an attachment, where the paper is a mail. */
  attachment: z.coerce.number().int().positive().max(10_000).nullish(),
  /** Given: hand it over as a file. Left out: show it on a page of ours. Both are the paper's own bytes, and need `take`. */
  copy: z.string().nullish(),
  /** A page, from 1, as a picture: for scans, and for those who may see a paper and not take copies of it. */
  page: z.coerce.number().int().min(1).max(10_000).nullish(),
  /** What the screen shows of it in place of its own bytes: pages as a PDF, or a view as JSON. Needs `take` as well. */
  form: z.enum(['pages', 'view']).nullish(),
  /** Of a note, a copy as a file of another kind. */
  as: z.enum(Object.keys(noteFiles) as [NoteFile, ...NoteFile[]]).nullish(),
});

/** Content that may be had, and whether copies of it may be taken. */
type Found = Content & { readonly mediaType: string; readonly fileName: string; readonly mayTake: boolean };

/**
 * A paper's content as it was asked for. @param contentOf the content, if it may be had with that capability
 * @param reader who reads, for the mark on the pages of one who may not have copies
 */
export async function paperResponse(
  request: Request,
  query: z.output<typeof contentQuery>,
  contentOf: (capability: 'see' | 'take') => Promise<Found>,
  reader: string,
): Promise<Response> {
  const asCopy = query.copy !== null && query.copy !== undefined;
  if (!asCopy && query.page) {
    const content = await contentOf('see');
    const etag = `${content.sha256}-${query.page}`;
    if (content.mayTake) return pageResponse(await pageOf(content, query.page), etag);
    const { timeZone } = await librarySettings();
    const mark = readerMark(reader, now().toISOString(), timeZone);
    return pageResponse(await markedPageOf(content, query.page, mark), `${etag}-marked`);
  }
  const content = await contentOf('take');
  if (query.as) return contentResponse(request, await servedNote(content, query.as), true);
  if (asCopy || !query.form) return contentResponse(request, servedContent(content), asCopy);
  const { form } = query;
  const kept = await keptForm(content.sha256, form);
  // A PDF is its own pages, unless it is a scan over which words were laid.
  if (!kept && form === 'pages' && content.mediaType === 'application/pdf')
    return contentResponse(request, servedContent(content), false);
  if (!kept) refuse('not-found');
  const mediaType = form === 'pages' ? 'application/pdf' : 'application/json';
  return contentResponse(request, { ...content, ...kept, mediaType, etag: `"${content.sha256}-${form}"` }, false);
}

async function servedNote(content: Found, as: NoteFile): Promise<Served> {
  const bytes = await noteAs(content, as);
  return {
    etag: `"${content.sha256}-${as}"`,
    sizeBytes: bytes.length,
    mediaType: noteFiles[as].mediaType,
    fileName: `${content.fileName.replace(/\.[^.]*$/u, '')}.${as}`,
    read: async function* (from, to) {
      yield Promise.resolve(bytes.subarray(from, to));
    },
  };
}
