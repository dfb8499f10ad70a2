/**
 * Cells that a spreadsheet would run. A cell that begins with one of these could be taken for a formula (OWASP, "CSV
 * Injection"), also after a separator of other regions, at which a spreadsheet there would cut the cell; an apostrophe before it
 * makes it text. So that every text comes back as it was, one that already begins
 * with apostrophes before such a sign gets one more.
 */
const runs = /^'*(?:[;,|]\s*)*[=+\-@\t\r\n＝＋－＠]/u;
const guarded = /^'+(?:[;,|]\s*)*[=+\-@\t\r\n＝＋－＠]/u;
/** A plain number is no formula, minus sign or not. */
const plainNumber = /^-?\d+(?:\.\d+)?$/u;

export const guardCell = (text: string): string => (runs.test(text) && !plainNumber.test(text) ? `'${text}` : text);
export const unguardCell = (text: string): string => (guarded.test(text) ? text.slice(1) : text);
