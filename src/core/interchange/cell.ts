/**
 * Cells that a spreadsheet may run as a formula (OWASP, "CSV Injection"), including those after a separator used in other
 * regions, at which a spreadsheet there would split the cell. A leading apostrophe makes them text. So that every text
 * can be read back, texts that already begin with apostrophes before such a sign get one more.
 */
const runs = /^'*(?:[;,|]\s*)*[=+\-@\t\r\n＝＋－＠]/u;
const guarded = /^'+(?:[;,|]\s*)*[=+\-@\t\r\n＝＋－＠]/u;
/** A plain number, also negative, is not a formula. */
const plainNumber = /^-?\d+(?:\.\d+)?$/u;

/** A cell that no spreadsheet takes for a formula. */
export const guardCell = (text: string): string => (runs.test(text) && !plainNumber.test(text) ? `'${text}` : text);
/** Undoes `guardCell`. */
export const unguardCell = (text: string): string => (guarded.test(text) ? text.slice(1) : text);
