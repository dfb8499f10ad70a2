import { proxy, wrap } from 'comlink';
import { commonFolders } from '@/core/archives/entries';
import { issue } from '@/core/errors/issue';
import type { LibrarySettings } from '@/core/library/model';
import { offering, type OfferedFile } from './offeredFiles';
import type { UnpackFile } from './unpack.worker';

/** An archive whose files are offered in its place. */
export interface OpenedArchive {
  /** The key under which it was offered itself, which its files name. */
  readonly key: string;
  readonly name: string;
  /** The folders that hold all of it: `Committees/Finance`; '' for none. */
  readonly lead: string;
  /** How many files have values in its list, and how many were compared with the sums in it. */
  readonly listed: number;
  readonly sums: number;
}

/** An archive being unpacked in a worker of its own, which ends with it. */
export interface Unpacking {
  readonly done: Promise<
    { readonly archive: OpenedArchive; readonly files: readonly OfferedFile[] } | { readonly refused: string }
  >;
  readonly stop: () => void;
}

/** Begins to unpack an offered archive: what comes of it are files to be offered in its place, in folders. */
export function unpack(
  each: OfferedFile,
  library: LibrarySettings,
  tell: (done: number, of: number) => void,
): Unpacking {
  const worker = new Worker(new URL('./unpack.worker.ts', import.meta.url), { type: 'module' });
  const broken = new Promise<never>((_done, failed) => {
    worker.onerror = () => failed(new Error('The unpacking worker did not start, or ended'));
  });
  const answer = Promise.race([wrap<UnpackFile>(worker)(each.file, proxy(tell)), broken]).finally(() =>
    worker.terminate(),
  );
  return {
    stop: () => worker.terminate(),
    done: answer.then((unpacked) => {
      if ('refused' in unpacked) return unpacked;
      const offer = offering(library);
      const files = unpacked.files.map(
        ({ path, content, sizeBytes, changedAt, refused, title, cells }): OfferedFile => {
          const steps = path.split('/');
          const name = steps.pop() ?? '';
          const file = new File(content ? [content] : [], name, { lastModified: changedAt });
          const relativePath = [...(each.relativePath === '' ? [] : [each.relativePath]), ...steps].join('/');
          const offered = offer(file, relativePath);
          return {
            ...offered,
            title: title ?? offered.title,
            from: each.key,
            cells: cells ?? {},
            sizeBytes,
            refused: refused === null ? offered.refused : issue('invalid', refused),
          };
        },
      );
      const listed = files.filter(({ cells }) => Object.keys(cells).length > 0).length;
      const lead = commonFolders(files.map((file) => `${file.relativePath}/${file.file.name}`));
      return { archive: { key: each.key, name: each.file.name, lead, listed, sums: unpacked.sums }, files };
    }),
  };
}
