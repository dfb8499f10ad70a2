import { readBlock, readCsv } from '../interchange/block';
import { readName } from '../text/name';
import { nameKey } from '../text/fold';
import { readDetails, type DetailField, type Details, type FindPerson } from './details';
import { nextReference, readReference, type ReferencePattern } from './reference';

/** One dossier to be made, as it was pasted: with what is wrong with it, or ready. */
export interface DossierLine {
  /** The line of the text, from 1, that it stands on. */
  readonly line: number;
  readonly name: string;
  readonly reference: string | null;
  readonly details: Details;
  /** A whole sentence; null where it can be made. */
  readonly wrong: string | null;
}

/** What is in the series already. */
export interface SeriesNames {
  readonly nameKeys: ReadonlySet<string>;
  readonly references: readonly string[];
  /** Gives references to those that bring none; null where the series has no pattern. */
  readonly pattern: ReferencePattern | null;
  /** The details of its dossiers: columns of a table under their names. */
  readonly fields: readonly DetailField[];
  readonly findPerson: FindPerson;
}

const headings: Readonly<Record<string, 'name' | 'reference'>> = {
  name: 'name',
  dossier: 'name',
  reference: 'reference',
  ref: 'reference',
};

interface TableColumns {
  readonly name: number;
  readonly reference: number;
  /** By the ids of fields. */
  readonly details: Readonly<Record<string, number>>;
}

/** The columns of a table by its first row; null where that is no heading. */
function columnsIn(row: readonly string[], fields: readonly DetailField[]): TableColumns | null {
  const known = row.map((cell) => headings[cell.trim().toLowerCase()]);
  const name = known.indexOf('name');
  if (name < 0) return null;
  const keys = row.map((cell) => nameKey(cell));
  const details = fields.map(({ id, name: named }) => [id, keys.indexOf(nameKey(named))] as const);
  return {
    name,
    reference: known.indexOf('reference'),
    details: Object.fromEntries(details.filter(([, at]) => at >= 0)),
  };
}

interface Raw {
  readonly line: number;
  readonly name: string;
  readonly reference: string;
  readonly details: Readonly<Record<string, string>>;
}

/**
 * The rows of a pasted text: a block from a spreadsheet (tabs), or a CSV, both with a heading (name, reference, details by
 * their names) or with the name first and the reference after it; or simply a name a line. Empty lines are left out.
 */
export function readDossierText(text: string, fields: readonly DetailField[] = []): Raw[] {
  const body = text.replaceAll('\r\n', '\n').replace(/^\ufeff/u, '');
  const isBlock = body.includes('\t');
  const table = isBlock ? readBlock(body) : readCsv(body);
  const columns = columnsIn(table[0] ?? [], fields);
  if (!isBlock && columns === null)
    return body
      .split('\n')
      .map((name, at) => ({ line: at + 1, name: name.trim(), reference: '', details: {} }))
      .filter((row) => row.name !== '');
  const { name, reference, details } = columns ?? { name: 0, reference: 1, details: {} };
  return table
    .map((row, at) => ({
      line: at + 1,
      name: row[name]?.trim() ?? '',
      reference: row[reference]?.trim() ?? '',
      details: Object.fromEntries(Object.entries(details).map(([id, column]) => [id, row[column] ?? ''])),
    }))
    .slice(columns === null ? 0 : 1)
    .filter((row) => row.name !== '' || row.reference !== '');
}

/** Which dossiers a text makes: each with its reference, the next free one where it brings none, or with what is wrong. */
export function planDossiers(text: string, series: SeriesNames): DossierLine[] {
  const rows = readDossierText(text, series.fields);
  const names = new Map<string, number>();
  const references = new Map(series.references.map((each) => [each.toUpperCase(), 0]));
  const lines: DossierLine[] = [];
  // Those that are written down first, so that none of them is given away.
  for (const { line, reference } of rows) {
    const read = readReference(reference);
    if (read.ok && !references.has(read.value.toUpperCase())) references.set(read.value.toUpperCase(), line);
  }
  const taken = [...series.references, ...rows.flatMap((row) => row.reference)];
  for (const row of rows) {
    const name = readName(row.name);
    const written = row.reference === '' ? null : readReference(row.reference);
    const key = name.ok ? nameKey(name.value) : '';
    const details = readDetails(series.fields, row.details, series.findPerson);
    const wrongName = !name.ok
      ? name.issue.says
      : series.nameKeys.has(key)
        ? 'A dossier of that name is in the series already.'
        : names.has(key)
          ? `The same name stands on line ${names.get(key)}.`
          : written && !written.ok
            ? written.issue.says
            : written?.ok
              ? referenceWrong(references.get(written.value.toUpperCase()) ?? 0, row.line)
              : null;
    const wrong = wrongName ?? (details.ok ? null : (details.issue.fields?.[0]?.says ?? details.issue.says));
    if (name.ok && !names.has(key)) names.set(key, row.line);
    let reference = written?.ok ? written.value : null;
    if (wrong === null && written === null && series.pattern !== null) {
      do {
        reference = nextReference(series.pattern, taken);
        taken.push(reference);
      } while (references.has(reference.toUpperCase()));
    }
    lines.push({
      line: row.line,
      name: name.ok ? name.value : row.name,
      reference,
      details: details.ok ? details.value : {},
      wrong,
    });
  }
  return lines;
}

/** `holder`: the line that has the reference; 0 where a dossier of the series has it. */
function referenceWrong(holder: number, line: number): string | null {
  if (holder === line) return null;
  return holder === 0 ? 'That reference is in use in the series.' : `The same reference stands on line ${holder}.`;
}
