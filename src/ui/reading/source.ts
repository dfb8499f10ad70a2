import type { ReadablePaper } from '@/core/reading/contract';

/** Content that is read on the screen, and where it is fetched. */
export interface Source {
  readonly paper: ReadablePaper;
  readonly title: string;
  /** The address of its content. @param query such as `{ page: 3 }`; its own bytes where it is empty */
  address(query?: Readonly<Record<string, string | number>>): string;
  /** What a phrase can be looked for in; null where that is not offered. */
  readonly find: Searched | null;
  /** Whether the server’s picture of the first page is there, to be shown until the pages themselves are drawn. */
  readonly showsFirst?: boolean;
}

/** What a phrase is looked for in: a paper, or a version or an attachment of it; or somebody's copy of a pack. */
export type Searched =
  | { readonly documentId: string; readonly version: number | null; readonly attachment: number | null }
  | { readonly issueId: string };

/** The addresses of its pages, as the server draws them. */
export const pageAddresses = (source: Source, pages: number): string[] =>
  Array.from({ length: pages }, (_page, at) => source.address({ page: at + 1 }));

/** Content by the address of its paper. @param part a version, or an attachment of a mail */
export function sourceOf(
  from: string,
  title: string,
  paper: ReadablePaper,
  part: Readonly<Record<string, string | number>>,
  find: Source['find'],
): Source {
  return {
    paper,
    title,
    find,
    address: (query = {}) => {
      const all = { of: paper.sha256.slice(0, 12), ...part, ...query };
      return `${from}?${new URLSearchParams(Object.entries(all).map(([name, value]) => [name, String(value)])).toString()}`;
    },
  };
}
