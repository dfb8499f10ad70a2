import { layOut, type PackPlan } from './layout';
import { laidEntries, type PackRecord } from './record';

/** The letters that follow a page’s number: a to z, then aa, ab and so on, as pages let into a book are numbered (common practice, no source). */
export function lettersOf(count: number): string {
  const rest = Math.floor((count - 1) / 26);
  return (rest > 0 ? lettersOf(rest) : '') + String.fromCodePoint(97 + ((count - 1) % 26));
}

/** What is issued already, where more pages are to be let in. */
export interface IssuedSoFar {
  /** All entries of the pack now, in order: by it is known behind which paper a new one comes. */
  readonly order: readonly string[];
  /** By entry: the number, without letters, of its last page. */
  readonly lastPages: ReadonlyMap<string, number>;
  /** By number: how many pages are let in behind it already. */
  readonly letIn: ReadonlyMap<number, number>;
  /** The last page before the first paper. */
  readonly frontEnd: number;
}

/**
 * What an issue of a pack and its supplements have so far.
 * @param records the issue, then its supplements as they came
 * @param all the entries of the pack now, in order
 */
export function issuedSoFar(records: readonly PackRecord[], all: readonly { readonly id: string }[]): IssuedSoFar {
  const lastPages = new Map<string, number>();
  const letIn = new Map<number, number>();
  const plans = records.map((record) => ({ record, plan: layOut(laidEntries(record.entries), record) }));
  for (const { record, plan } of plans) {
    for (const { kind, entryId, from, pages } of plan.parts)
      if (kind === 'paper' && entryId !== null)
        lastPages.set(entryId, Number.parseInt(pageLabel(record, from + pages - 1), 10));
    for (const label of record.labels ?? []) {
      const number = Number.parseInt(label, 10);
      if (label !== '') letIn.set(number, (letIn.get(number) ?? 0) + 1);
    }
  }
  const contents = plans[0]?.plan.parts.find(({ kind }) => kind === 'contents');
  const frontEnd = contents ? contents.from + contents.pages - 1 : 0;
  return { order: all.map(({ id }) => id), lastPages, letIn, frontEnd };
}

/**
 * The numbers of a supplement’s pages that are let in where they belong: behind the pages of the same paper, or else of the paper
 * before it. Its cover and contents have none. Numbers that are taken are not given again.
 * @returns one for each page of the supplement, in order
 */
export function letInLabels({ parts }: PackPlan, soFar: IssuedSoFar): string[] {
  const { order, lastPages, letIn, frontEnd } = soFar;
  const taken = new Map(letIn);
  const behind = (entryId: string): number => {
    for (let at = order.indexOf(entryId); at >= 0; at -= 1) {
      const last = lastPages.get(order[at] ?? '');
      if (last !== undefined) return last;
    }
    return frontEnd;
  };
  const end = Math.max(frontEnd, ...lastPages.values());
  return parts.flatMap(({ kind, entryId, pages }) => {
    if (kind === 'cover' || kind === 'contents') return Array.from({ length: pages }, () => '');
    const number = entryId === null ? end : behind(entryId);
    return Array.from({ length: pages }, () => {
      const count = (taken.get(number) ?? 0) + 1;
      taken.set(number, count);
      return `${number}${lettersOf(count)}`;
    });
  });
}

type Numbered = Pick<PackRecord, 'firstPage' | 'labels'>;

/** What is stamped on a page: its number, or where it is let in: "40a". */
export const pageLabel = ({ firstPage, labels }: Numbered, page: number): string =>
  labels ? (labels[page - firstPage] ?? '') : String(page);

/** The words of the stamp: "Pack page 41 of 212", "Pack page 40a". */
export const stampInWords = (record: Numbered, page: number, total: number): string =>
  record.labels ? `Pack page ${pageLabel(record, page)}` : `Pack page ${page} of ${record.firstPage + total - 1}`;

/** "Page 40 is not part of your copy.", "Pages 40 to 52 are not part of your copy." */
export const leftOutInWords = (
  record: Numbered,
  { from, to }: { readonly from: number; readonly to: number },
): string =>
  from === to
    ? `Page ${pageLabel(record, from)} is not part of your copy.`
    : `Pages ${pageLabel(record, from)} to ${pageLabel(record, to)} are not part of your copy.`;

/** Which pages it has: "212 pages in all", "Pages 213 to 220", "Let in: pages 40a to 40c, 52a". */
export function pagesInWords(record: Numbered, { parts, total }: PackPlan): string {
  const { firstPage, labels } = record;
  if (!labels) {
    const last = firstPage + total - 1;
    return firstPage === 1 ? `${total} pages in all` : `Pages ${firstPage} to ${last}`;
  }
  const runs = parts
    .filter(({ kind }) => kind !== 'cover' && kind !== 'contents')
    .map(({ from, pages }) => {
      const [first, last] = [pageLabel(record, from), pageLabel(record, from + pages - 1)];
      return first === last ? first : `${first} to ${last}`;
    });
  return `Let in: pages ${runs.join(', ')}`;
}
