/** How far a page is turned, clockwise, beside how it lies in the file. In degrees. */
export const turns = [0, 90, 180, 270] as const;
export type Turn = (typeof turns)[number];

/** A page of a scan as it goes into a paper. */
export interface CutPage {
  /** From 1. */
  readonly page: number;
  readonly turn: Turn;
}

/** A paper that is made of pages of a scan, in their order. */
export interface CutPaper {
  readonly pages: readonly CutPage[];
  /** The reference of a dossier on the separator sheet before it; null: none says. */
  readonly reference: string | null;
}

/** What separates papers in a stack: a sheet with our barcode, or a page with nothing on it. */
export type Separator = { readonly kind: 'sheet'; readonly reference: string | null } | { readonly kind: 'blank' };

/** So many pages of a scan are looked through at most. */
export const mostCutPages = 1000;
/** So many papers are made of one scan at most. */
export const mostCutPapers = 200;

/** What the barcode of a separator sheet says. The sheet of a dossier has its reference behind it. */
const sheetWords = 'EMBRIN NEXT';

/** What the barcode of a separator sheet has to say. @param reference of the dossier into which the next paper goes; null: any */
export const sheetSays = (reference: string | null): string =>
  reference === null ? sheetWords : `${sheetWords} ${reference}`;

/** A separator sheet by what a barcode on it says; null: it is none of ours, and says nothing to us. */
export function readSheet(says: string): Extract<Separator, { kind: 'sheet' }> | null {
  const found = /^EMBRIN NEXT(?: (?<reference>[\p{L}\p{N}][\p{L}\p{N}./-]{0,39}))?$/u.exec(says.trim());
  return found ? { kind: 'sheet', reference: found.groups?.['reference'] ?? null } : null;
}

/**
 * The papers in a stack: a new one begins after each separator, which is no page of any. A stack that would be one paper with all its pages
 * needs nothing done: null.
 * @param separators by page, from 1
 */
export function papersBetween(pages: number, separators: ReadonlyMap<number, Separator>): CutPaper[] | null {
  const papers: { pages: CutPage[]; reference: string | null }[] = [];
  let reference: string | null = null;
  let open: (typeof papers)[number] | null = null;
  for (let page = 1; page <= pages; page += 1) {
    const separator = separators.get(page);
    if (separator) {
      open = null;
      if (separator.kind === 'sheet') ({ reference } = separator);
      continue;
    }
    if (!open) papers.push((open = { pages: [], reference }));
    open.pages.push({ page, turn: 0 });
  }
  return separators.size === 0 || papers.length === 0 ? null : papers;
}

/** What is wrong with how somebody wants a scan taken apart, in words; null: nothing. @param pages of the scan */
export function cutFault(papers: readonly Pick<CutPaper, 'pages'>[], pages: number): string | null {
  const all = papers.flatMap((paper) => paper.pages);
  if (all.some(({ page }) => page > pages)) return `The scan has ${pages} pages.`;
  if (new Set(all.map(({ page }) => page)).size < all.length) return 'A page goes into one paper.';
  const isAsItIs =
    papers.length === 1 && all.length === pages && all.every(({ page, turn }, at) => page === at + 1 && turn === 0);
  return isAsItIs ? 'Nothing is changed: turn, move or leave out a page, or begin a new paper.' : null;
}

/** A page on which less than this is dark has nothing on it: dust, and what shines through. In parts of the page. */
const blankBelow = 0.0003;
/** Punched holes, shadows of edges and staples lie here. In parts of each side. */
const margin = 0.06;
/** Darker than this is ink. Of 255. */
const inkBelow = 150;

/** Whether a page has nothing on it. @param grey a byte for each point, 0 for black, row by row */
export function isBlank(grey: Uint8Array, width: number, height: number): boolean {
  const [left, top] = [Math.ceil(width * margin), Math.ceil(height * margin)];
  let dark = 0;
  for (let y = top; y < height - top; y += 1)
    for (let x = left; x < width - left; x += 1) if ((grey[y * width + x] ?? 255) < inkBelow) dark += 1;
  return dark < blankBelow * (width - 2 * left) * (height - 2 * top);
}
