import type { Cells } from '@/core/archives/lists';
import { issue, type Issue } from '@/core/errors/issue';
import { permittedEndings } from '@/core/files/fileKind';
import { endingOf, tidyTitle } from '@/core/files/title';
import type { LibrarySettings } from '@/core/library/model';
import { sizeInWords } from '@/core/text/measure';
import type { QueueItem } from '@/core/uploads/queue';

/** A file that a person has chosen, before it is sent. */
export interface OfferedFile {
  readonly key: string;
  readonly file: File;
  readonly title: string;
  /** The folders of a dropped or chosen folder: `Agendas/2026`; '' for a single file. */
  readonly relativePath: string;
  /** Why it will not be sent; null where it will. */
  readonly refused: Issue | null;
  /** The archive that it was taken out of, by the key of that; null for a file of its own. */
  readonly from: string | null;
  /** Values that a list says it has, by the names of their columns: as text, not yet read. */
  readonly cells: Cells;
  /** For a file that cannot be read, what it is said to have. */
  readonly sizeBytes: number;
}

/** The folders above a file, from whichever of the two properties a browser or a drop fills. */
export function foldersOf(file: File): string {
  const dropped = 'path' in file && typeof file.path === 'string' ? file.path : '';
  const way = (file.webkitRelativePath || dropped).replace(/^[./\\]+/u, '');
  return way.split(/[/\\]/u).slice(0, -1).join('/');
}

/** Files as they are offered for filing, with why one cannot be taken. */
export const offered = (files: readonly File[], library: LibrarySettings): OfferedFile[] => {
  const offer = offering(library);
  return files.map((file) => offer(file, foldersOf(file)));
};

/** How a file is offered for filing in a library, with the folders it comes in. */
export function offering(library: LibrarySettings): (file: File, relativePath: string) => OfferedFile {
  const endings = new Set(permittedEndings(library.families));
  return (file, relativePath) => ({
    key: crypto.randomUUID(),
    file,
    title: tidyTitle(file.name),
    relativePath,
    refused: refusalOf(file, library.maxFileBytes, endings),
    from: null,
    cells: {},
    sizeBytes: file.size,
  });
}

/** Whether a file is an archive by its name, and may be unpacked. */
export const isArchive = (file: File): boolean => endingOf(file.name) === 'zip';

function refusalOf(file: File, maxFileBytes: number, endings: ReadonlySet<string>): Issue | null {
  if (file.size === 0) return issue('invalid', 'The file is empty.');
  const ending = endingOf(file.name);
  if (ending !== '' && !endings.has(ending))
    return issue('kind-refused', `This library takes no files whose name ends in “.${ending}”.`);
  if (file.size <= maxFileBytes) return null;
  return issue(
    'too-large',
    `It has ${sizeInWords(file.size)}; this library takes files of up to ${sizeInWords(maxFileBytes)}.`,
  );
}

/** An offered file as it enters the queue, with nothing said of it yet. */
export const queued = (
  { key, file, title, relativePath, refused, cells }: OfferedFile,
  place: { readonly id: string; readonly name: string },
): QueueItem => ({
  key,
  uploadId: null,
  fileName: file.name,
  sizeBytes: file.size,
  sentBytes: 0,
  placeId: place.id,
  placeName: place.name,
  relativePath,
  title,
  remark: '',
  onSameName: null,
  versionOf: null,
  cells,
  notSet: [],
  tell: [],
  state: refused ? 'refused' : 'waiting',
  issue: refused,
  sameContent: [],
  documentId: null,
  readings: [],
});
