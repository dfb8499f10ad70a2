import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { nameKey } from '../text/fold';
import { readCsv } from '../interchange/block';
import type { PlainTerm } from './skos';

const headings = ['Value', 'Other names', 'Retired'] as const;
const levelSign = ' > ';

/** A list as a table: each value with its path (`Finance > Audit`), and other names separated by semicolons. */
export const termTable = (terms: readonly PlainTerm[]): string[][] => [
  [...headings],
  ...terms.map(({ way, otherNames, retired }) => [way.join(levelSign), otherNames.join('; '), retired ? 'yes' : '']),
];

/** Reads such a table; without the heading `Value`, reads a plain list of values. */
export function readTermTable(text: string): Result<PlainTerm[]> {
  const rows = readCsv(text);
  const keys = (rows[0] ?? []).map((cell) => nameKey(cell.trim()));
  const at = headings.map((heading) => keys.indexOf(nameKey(heading)));
  const [valueAt = -1, othersAt = -1, retiredAt = -1] = at;
  const plain = valueAt === -1;
  const terms = (plain ? rows : rows.slice(1)).flatMap((row): PlainTerm[] => {
    const way = (row[plain ? 0 : valueAt] ?? '')
      .split('>')
      .map((step) => step.trim())
      .filter(Boolean);
    if (way.length === 0) return [];
    const others = othersAt === -1 ? '' : (row[othersAt] ?? '');
    return [
      {
        way,
        otherNames: others
          .split(';')
          .map((name) => name.trim())
          .filter(Boolean),
        retired: retiredAt !== -1 && /^(?:yes|y|true|1)$/iu.test((row[retiredAt] ?? '').trim()),
      },
    ];
  });
  return terms.length === 0
    ? bad(invalidField('text', 'There is no value in it: each line begins with one.'))
    : good(terms);
}
