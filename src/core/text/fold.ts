/**
 * The key by which names are equal: NFC (Unicode UAX #15), upper-cased and then lower-cased, so that `ß` equals `SS` and
 * both Greek sigmas are equal, then NFC again.
 */
export function nameKey(name: string): string {
  return name.normalize('NFC').toUpperCase().toLowerCase().normalize('NFC');
}

const marks = /\p{Mn}/gu;
const gaps = /[\s\p{Pd}_]+/gu;

/**
 * The key by which names and titles are searched: compatibility-decomposed, without accents and apostrophes, lower case,
 * one space between words.
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
