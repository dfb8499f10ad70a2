const key = 'embrin-read-from';
/** More papers than this nobody turns through one by one. */
const most = 2000;

/** Remembers, for this window, the papers of the view from which one is opened, in their order. */
export function rememberOrder(ids: readonly string[]): void {
  sessionStorage.setItem(key, JSON.stringify(ids.slice(0, most)));
}

/** The papers before and after one in the view from which it was opened; null at its ends, or where there is no view. */
export function neighboursOf(id: string): { readonly before: string | null; readonly after: string | null } {
  const ids = remembered();
  const at = ids.indexOf(id);
  return at === -1 ? { before: null, after: null } : { before: ids[at - 1] ?? null, after: ids[at + 1] ?? null };
}

function remembered(): readonly string[] {
  try {
    const read: unknown = JSON.parse(sessionStorage.getItem(key) ?? '[]');
    return Array.isArray(read) ? read.filter((each) => typeof each === 'string') : [];
  } catch {
    return [];
  }
}
