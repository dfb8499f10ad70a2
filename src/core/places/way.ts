/**
 * A place's name, preceded by its dossier's if it lies in one: "Full board, 2025–26". The same as `fullName` in SQL.
 * `names` are those from the series to the place.
 */
export function placeInWords(names: readonly string[]): string {
  const own = names.at(-1) ?? '';
  const dossier = names[1];
  return names.length > 2 && dossier !== undefined ? `${dossier}, ${own}` : own;
}
