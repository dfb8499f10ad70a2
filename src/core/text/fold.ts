/**
 * The form in which names are compared for being the same: NFC (Unicode UAX #15), upper-cased and
 * lower-cased again so that `ß` meets `SS` and both Greek sigmas meet, then NFC once more.
 */
export function nameKey(name: string): string {
  return name.normalize('NFC').toUpperCase().toLowerCase().normalize('NFC');
}

const marks = /\p{Mn}/gu;
const gaps = /[\s\p{Pd}_]+/gu;

/**
 * The form in which names and titles are searched: compatibility-decomposed, without accents, lower
 * case, apostrophes dropped, one blank between words.
 */
export function searchKey(text: string): string {
  return text
    .normalize('NFKD')
    .replace(marks, '')
    .replace(/['’‘ʼ]/gu, '')
    .toUpperCase()
    .toLowerCase()
    .replace(gaps, ' ')
    .trim();
}
