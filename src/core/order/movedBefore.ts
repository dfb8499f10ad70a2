/**
 * The ids with one moved before another (`null`: to the end). Unchanged if an id is unknown, or is moved before itself.
 */
export function movedBefore(ids: readonly string[], moved: string, before: string | null): string[] {
  if (!ids.includes(moved) || moved === before) return [...ids];
  const rest = ids.filter((id) => id !== moved);
  const at = before === null ? -1 : rest.indexOf(before);
  return at === -1 ? [...rest, moved] : [...rest.slice(0, at), moved, ...rest.slice(at)];
}
