/** The store of a browser in which packs are kept that were opened. */
export const keptName = 'embrin-packs';
/** So many packs are kept, those that were opened last. */
export const mostKept = 3;

/** The page of an issue of a pack. */
export const pageOf = (issueId: string): string => `/issued/${issueId}`;

/** Whether an address is that of a script, a style or a typeface of our pages. */
export const isPart = (address: string): boolean => /^\/(?:_next\/static|pdfjs)\//u.test(new URL(address).pathname);

/** What a page tells the service worker that is to keep a pack. */
export interface KeepPack {
  readonly issueId: string;
  readonly personId: string;
  /** The address of its content. */
  readonly from: string;
  /** What else the page is made of. */
  readonly addresses: readonly string[];
  /** What the server has answered so far. */
  readonly answers: readonly { readonly name: string; readonly input: unknown; readonly told: unknown }[];
}

/** Forgets all packs that are kept in this browser: whoever signs out leaves none behind. */
export async function forgetKept(): Promise<void> {
  if ('caches' in globalThis) await caches.delete(keptName).catch(() => false);
}
