import { asks } from '../acts/operation';
import { columnsIn } from '../columns/inForce';
import { and, arrayContains, eq, sql, type SQL } from 'drizzle-orm';
import { z } from 'zod';
import type { Column, Values } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import type { PlacedPaper } from '@/core/documents/contract';
import type { LedgerPage, PaperInside, PaperRow } from '@/core/documents/model';
import type { Direction } from '@/core/order/direction';
import { searchKey } from '@/core/text/fold';
import type { Conditions } from '@/core/views/conditions';
import type { Actor } from '../gate/actor';
import { labelIsKnown, paperAllows } from '../gate/visible';
import { toldValues } from '../columns/read';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { idIn } from '../db/idIn';
import { plannedOnce } from '../db/plannedOnce';
import { document, documentLabel, label, look, person, place, reading, version } from '../db/schema';
import { standId, standName, standsIn } from '../known/standing';
import { builtInSql, changerName, isSqlProperty } from '../conditions/builtIns';
import { momentNow } from '../conditions/moment';
import { owedForLists } from '../owed/papers';
import { columnKey, meetsAll, type Moment } from '../conditions/where';

/** What reading found in papers' current versions. The caller's select has passed the gate. */
const insideOf = sql<PaperInside>`coalesce(
  (select jsonb_build_object(
      'summary', coalesce(${reading.summary}[1], ''), 'keyWords', to_jsonb(${reading.keyWords}[1:6]), 'language', ${reading.language})
    from ${version} join ${reading} on ${reading.sha256} = ${version.sha256}
    where ${version.id} = ${document.versionId}),
  '{"summary": "", "keyWords": [], "language": null}')`;

const rowColumns = (actor: Actor) => ({
  id: document.id,
  title: document.title,
  stamp: document.stamp,
  sizeBytes: document.sizeBytes,
  pageCount: document.pageCount,
  wordCount: document.wordCount,
  signature: document.signature,
  filedBy: person.name,
  changedBy: changerName,
  filedAt: document.filedAt,
  changedAt: document.changedAt,
  revision: document.revision,
  values: document.shownValues,
  fixedValues: place.fixedValues,
  labels: sql<
    string[]
  >`array(select ${documentLabel.labelId}::text from ${documentLabel} join ${label} on ${label.id} = ${documentLabel.labelId}
    where ${documentLabel.documentId} = ${document.id} and ${labelIsKnown(actor)})`,
  inside: insideOf,
});

interface NamedPapers {
  readonly rows: PlacedPaper[];
  readonly names: Readonly<Record<string, string>>;
}

type SelectedRow = Omit<PaperRow, 'filedAt' | 'changedAt' | 'fixed' | 'owed'> & {
  filedAt: Date;
  changedAt: Date;
  fixedValues: Values;
};

const asRows = async <T extends SelectedRow>(rows: readonly T[]) => {
  const owedTo = await owedForLists(
    db(),
    rows.map(({ id }) => id),
  );
  return rows.map(({ fixedValues, ...row }) => ({
    ...row,
    fixed: Object.keys(fixedValues),
    filedAt: row.filedAt.toISOString(),
    changedAt: row.changedAt.toISOString(),
    owed: owedTo(row.id),
  }));
};

/** The end of a page of results: the last row's sort key, title and id. */
const cursorSchema = z.tuple([z.string(), z.string(), z.uuid()]);

function readCursor(after: string): z.output<typeof cursorSchema> {
  try {
    return cursorSchema.parse(JSON.parse(after));
  } catch {
    return refuse('invalid', 'The list cannot be continued from there. Open it again.');
  }
}

/** Papers in a place, or also below it, that match the filter and the conditions. */
function shownIn(
  actor: Actor,
  { placeId, below, filter, conditions }: Pick<LedgerQuestion, 'placeId' | 'below' | 'filter' | 'conditions'>,
  columns: readonly Column[],
  moment: Moment,
): SQL {
  const words = searchKey(filter);
  const found = words === '' ? sql`true` : sql`${document.searchKey} like ${`%${escapeLike(words)}%`}`;
  const within = standsIn(actor, below ? arrayContains(place.lineage, [placeId]) : eq(place.id, placeId));
  return sql`${within} and ${paperAllows(actor, 'see')} and ${found} and ${meetsAll(actor, conditions ?? [], columns, moment)}`;
}

/** What the plain list of a place asks. */
export interface LedgerQuestion {
  readonly placeId: string;
  readonly below?: boolean;
  /** A built-in sort, or the id of a column. */
  readonly sort: string;
  readonly direction: Direction;
  readonly filter: string;
  readonly conditions?: Conditions;
  readonly after: string | null;
  readonly limit: number;
}

/**
 * A page of the papers in a place, by SQL alone and by key rather than offset. Used while the tally is being filled, and
 * as its reference in tests.
 */
export async function ledgerPage(actor: Actor, input: LedgerQuestion): Promise<LedgerPage> {
  const columns = await columnsIn(actor, input.placeId, input.below ?? false);
  const up = input.direction === 'up';
  const sortColumn = columns.find((column) => column.id === input.sort && !column.retired);
  // Ignores a sort by a column that no longer exists.
  const { by, type } = sortColumn
    ? columnKey(sortColumn, up)
    : builtInSql[isSqlProperty(input.sort) ? input.sort : 'title'].sort;
  const shown = shownIn(actor, input, columns, await momentOf(actor, input.placeId));
  const beyond = input.after === null ? sql`true` : beyondKey(readCursor(input.after), by, type, up);
  const order = up
    ? sql`${by} asc, ${document.title} asc, ${document.id} asc`
    : sql`${by} desc, ${document.title} desc, ${document.id} desc`;
  const [rows, totals] = await Promise.all([
    db()
      .select({ ...rowColumns(actor), key: sql<string>`${by}::text` })
      .from(document)
      .innerJoin(person, eq(person.id, document.filedBy))
      .innerJoin(place, eq(place.id, document.homeId))
      .where(and(shown, beyond))
      .orderBy(order)
      .limit(input.limit),
    input.after === null ? ledgerTotals(shown) : null,
  ]);
  const last = rows.length === input.limit ? rows.at(-1) : undefined;
  const told = await toldValues(db(), actor, await asRows(rows.map(({ key: _key, ...row }) => row)));
  return { ...told, next: last ? JSON.stringify([last.key, last.title, last.id]) : null, totals };
}

function beyondKey([key, title, id]: z.output<typeof cursorSchema>, by: SQL, type: string, up: boolean): SQL {
  const here = sql`(${by}, ${document.title}, ${document.id})`;
  const there = sql`(${key}::${sql.raw(type)}, ${title}::text, ${id}::uuid)`;
  return up ? sql`${here} > ${there}` : sql`${here} < ${there}`;
}

async function ledgerTotals(shown: SQL) {
  const [sums] = await db()
    .select({
      papers: sql<number>`count(*)::int`,
      sizeBytes: sql<number>`coalesce(sum(${document.sizeBytes}), 0)::float8`,
      pages: sql<number>`coalesce(sum(${document.pageCount}), 0)::int`,
    })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(shown);
  return sums ?? { papers: 0, sizeBytes: 0, pages: 0 };
}

/** The reference point of relative conditions, for the caller's visit to a place now. */
async function momentOf(actor: Actor, placeId: string): Promise<Moment> {
  const [looked] = await db()
    .select({ before: look.before })
    .from(look)
    .where(and(eq(look.personId, actor.personId), eq(look.placeId, placeId)));
  return momentNow(looked?.before ?? null);
}

/** Papers with the place they lie in. */
export const placedPapers = async (actor: Actor, which: SQL, most: number): Promise<PlacedPaper[]> =>
  (await namedPapers(actor, which, most)).rows;

/** Papers with the place they lie in, and names for the ids in their values. */
async function namedPapers(actor: Actor, which: SQL, most: number): Promise<NamedPapers> {
  const rows = await db()
    .select({ ...rowColumns(actor), homeId: standId(actor), homeName: standName(actor) })
    .from(document)
    .innerJoin(person, eq(person.id, document.filedBy))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(paperAllows(actor, 'see'), which))
    .orderBy(sql`${document.changedAt} desc, ${document.id}`)
    .limit(most);
  return toldValues(db(), actor, await asRows(rows));
}

/** The forty most recently changed papers that the caller may see. */
export const latelyChanged = asks('papers.lately', (actor) => placedPapers(actor, sql`true`, 40));

/** Papers by id, in the order of the ids, as far as the caller may see them; and names for the ids in their values. */
export async function papersInOrder(actor: Actor, ids: readonly string[]): Promise<NamedPapers> {
  const { rows, names } = await namedPapers(actor, amongIds(ids), ids.length);
  const byId = new Map(rows.map((row) => [row.id, row]));
  return { rows: ids.flatMap((id) => byId.get(id) ?? []), names };
}

const amongIds = (ids: readonly string[]): SQL => sql`${idIn(document.id, ids)} and ${plannedOnce}`;

/** Papers by id, as far as the caller may see them. */
export const papersByIds = asks('papers.rows', (actor, { documentIds }) =>
  placedPapers(actor, amongIds(documentIds), 5000),
);
