/** A column of a sheet by its letters: 0 is A, 25 Z, 26 AA (ECMA-376, part 1, section 18.18.7). */
export function columnName(index: number): string {
  let [name, left] = ['', index];
  while (left >= 0) {
    name = String.fromCharCode(65 + (left % 26)) + name;
    left = Math.floor(left / 26) - 1;
  }
  return name;
}
