import { readBlock, readCsv } from '../interchange/block';
import { readName } from '../text/name';
import { nameKey } from '../text/fold';
import { readDetails, type DetailField, type Details, type FindPerson } from './details';
import { nextReference, readReference, type ReferencePattern } from './reference';

/** A line of a pasted list: a dossier to make, or an error. */
export interface DossierLine {
  /** The line of the text, from 1. */
  readonly line: number;
  readonly name: string;
  readonly reference: string | null;
  readonly details: Details;
  /** The error as a sentence; null if the dossier can be made. */
  readonly wrong: string | null;
}

/** What the series already has. */
export interface SeriesNames {
  readonly nameKeys: ReadonlySet<string>;
  readonly references: readonly string[];
  /** Gives references to lines without one; null if the series has no pattern. */
  readonly pattern: ReferencePattern | null;
  /** The detail fields, which can be columns of the table. */
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

/** The columns of a table by its first row; null if that is not a heading. */
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
 * Reads pasted text: a block from a spreadsheet (tabs) or a CSV, with a heading (name, reference, detail names) or with
 * the name first and the reference second; or one name per line. Ignores empty lines.
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

/** The dossiers of a text, each with its reference (the next free one if it has none) or its error. */
export function planDossiers(text: string, series: SeriesNames): DossierLine[] {
  const rows = readDossierText(text, series.fields);
  const names = new Map<string, number>();
  const references = new Map(series.references.map((each) => [each.toUpperCase(), 0]));
  const lines: DossierLine[] = [];
  // Takes the given references first, so that none is assigned to another line.
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

/** `holder`: the line that has the reference; 0 if a dossier of the series has it. */
function referenceWrong(holder: number, line: number): string | null {
  if (holder === line) return null;
  return holder === 0 ? 'That reference is in use in the series.' : `The same reference stands on line ${holder}.`;
}
