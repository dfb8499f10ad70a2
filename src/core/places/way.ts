/**
 * A place by its name, after its dossier's where it stands in one: "Full board, 2025–26". The same words as `fullName` in
 * SQL. `names` are those on the way to it, from the series down, its own last.
 */
export function placeInWords(names: readonly string[]): string {
  const own = names.at(-1) ?? '';
  const dossier = names[1];
  return names.length > 2 && dossier !== undefined ? `${dossier}, ${own}` : own;
}
