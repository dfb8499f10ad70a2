import { pathHeading, titleHeading } from '../columns/table';
import { nameKey } from '../text/fold';

/** The list of the files in an archive, with their values. */
export const listName = 'Papers.csv';
/** The sums of the others, as GNU `sha256sum` writes them. */
export const sumsName = 'SHA256SUMS';

/** What stands in an archive's list before the values. */
export const listHeadings = [
  pathHeading,
  titleHeading,
  'Kind',
  'Place',
  'Filed',
  'Filed by',
  'Pages',
  'Size in bytes',
] as const;

/** Cells of a list by their headings: values as text, not yet read. */
export type Cells = Readonly<Record<string, string>>;

/** What a list says of one file. */
export interface Listed {
  /** '' where it says none. */
  readonly title: string;
  readonly cells: Cells;
}

/**
 * What a list says of files, by their paths: any table whose first line has a heading `Path`. Columns of a list that the
 * library itself made, and are no values, are left out, though a column of values may have the same name.
 */
export function readList(rows: readonly (readonly string[])[]): ReadonlyMap<string, Listed> {
  const [heading = [], ...lines] = rows;
  const isOurs = listHeadings.every((name, at) => heading[at]?.trim() === name);
  const keys = heading.map((cell) => nameKey(cell.trim()));
  const [pathAt, titleAt] = [pathHeading, titleHeading].map((name) => keys.indexOf(nameKey(name)));
  if (pathAt === undefined || pathAt === -1) return new Map();
  const isValue = (at: number) => (isOurs ? at >= listHeadings.length : at !== pathAt && at !== titleAt);
  return new Map(
    lines.map((line) => [
      tidyPath(line[pathAt] ?? ''),
      {
        title: (titleAt === undefined ? undefined : line[titleAt])?.trim() ?? '',
        cells: Object.fromEntries(
          heading.flatMap((name, at) =>
            isValue(at) && name.trim() !== '' && line[at] ? [[name.trim(), line[at]]] : [],
          ),
        ),
      },
    ]),
  );
}

/** Sums by path, from a list as `sha256sum` writes it (GNU coreutils): the sum, a space, a space or `*`, the path. */
export function readSums(text: string): ReadonlyMap<string, string> {
  return new Map(
    text.split(/\r?\n/u).flatMap((line) => {
      const found = /^(?<sum>[0-9a-f]{64}) [ *](?<path>.+)$/iu.exec(line)?.groups;
      return found?.sum && found.path ? [[tidyPath(found.path), found.sum.toLowerCase()] as const] : [];
    }),
  );
}

/** Sums as `sha256sum -c` reads them. */
export const writeSums = (files: readonly { readonly sha256: string; readonly path: string }[]): string =>
  files.map(({ sha256, path }) => `${sha256}  ${path}\n`).join('');

/** A path as it is compared: `./` before it is left out. */
export const tidyPath = (path: string): string =>
  path
    .trim()
    .replaceAll('\\', '/')
    .replace(/^(?:\.\/)+/u, '')
    .normalize('NFC');
