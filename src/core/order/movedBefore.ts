/**
 * The ids with one of them moved to stand before another (`null`: at the end). An id that is not
 * among them, or one moved before itself, leaves the order as it is.
 */
export function movedBefore(ids: readonly string[], moved: string, before: string | null): string[] {
  if (!ids.includes(moved) || moved === before) return [...ids];
  const rest = ids.filter((id) => id !== moved);
  const at = before === null ? -1 : rest.indexOf(before);
  return at === -1 ? [...rest, moved] : [...rest.slice(0, at), moved, ...rest.slice(at)];
}
