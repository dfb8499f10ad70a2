import { and, eq, inArray, sql, type SQL } from 'drizzle-orm';
import { z } from 'zod';
import type { ReadInputOf } from '@/core/contract';
import { inWords } from '@/core/columns/format';
import { isReferring, type Column, type Values } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import type { PlacedPaper } from '@/core/documents/contract';
import {
  ledgerSorts,
  type DisposedPaper,
  type LedgerPage,
  type LedgerSort,
  type PaperRow,
} from '@/core/documents/model';
import { searchKey } from '@/core/text/fold';
import type { AskedFor, Conditions, ValueCounts } from '@/core/views/conditions';
import type { Actor } from '../access/actor';
import { labelIsKnown, paperAllows, paperIsDisposed, placeIsKnown } from '../access/visible';
import { allColumns, allLists, asNames, lexiconsOf, namesFor } from '../columns/read';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { document, documentLabel, label, person, place } from '../db/schema';
import { fullName } from '../places/rows';
import { columnKey, meetsAll } from '../views/where';

/** The name of who changed a paper last; a second look at the people, whose first is who filed it. */
const changerName = sql<string>`(select changer.name from person as changer where changer.id = ${document.changedBy})`;

const rowColumns = (actor: Actor) => ({
  id: document.id,
  title: document.title,
  stamp: document.stamp,
  sizeBytes: document.sizeBytes,
  pageCount: document.pageCount,
  wordCount: document.wordCount,
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
    where ${documentLabel.documentId} = ${document.id} and ${labelIsKnown(actor)} order by ${label.name})`,
});

type SelectedRow = Omit<PaperRow, 'filedAt' | 'changedAt' | 'fixed'> & {
  filedAt: Date;
  changedAt: Date;
  fixedValues: Values;
};

const asRow = <T extends SelectedRow>({ fixedValues, ...row }: T) => ({
  ...row,
  fixed: Object.keys(fixedValues),
  filedAt: row.filedAt.toISOString(),
  changedAt: row.changedAt.toISOString(),
});

interface SortKey {
  readonly by: SQL;
  readonly type: string;
}

/** What each sort compares, and the type its key has in SQL. Unknown page counts come first. */
const sortKeys: Record<LedgerSort, SortKey> = {
  title: { by: sql`${document.title}`, type: 'text' },
  stamp: { by: sql`${document.stamp}`, type: 'text' },
  size: { by: sql`${document.sizeBytes}`, type: 'bigint' },
  pages: { by: sql`coalesce(${document.pageCount}, 0)`, type: 'integer' },
  words: { by: sql`coalesce(${document.wordCount}, 0)`, type: 'integer' },
  filedBy: { by: sql`${person.name}`, type: 'text' },
  filedAt: { by: sql`${document.filedAt}`, type: 'timestamptz' },
  changedBy: { by: changerName, type: 'text' },
  changedAt: { by: sql`${document.changedAt}`, type: 'timestamptz' },
};

const isLedgerSort = (sort: string): sort is LedgerSort => (ledgerSorts as readonly string[]).includes(sort);

/** Where a page ended: its last row's sort key, title and id. */
const cursorSchema = z.tuple([z.string(), z.string(), z.uuid()]);

function readCursor(after: string): z.output<typeof cursorSchema> {
  try {
    return cursorSchema.parse(JSON.parse(after));
  } catch {
    return refuse('invalid', 'The list cannot be continued from there. Open it again.');
  }
}

/** The columns in force at a place that the actor knows of. */
async function columnsIn(actor: Actor, placeId: string): Promise<Column[]> {
  const [known] = await db()
    .select({ lineage: place.lineage })
    .from(place)
    .where(and(eq(place.id, placeId), placeIsKnown(actor)));
  if (!known) refuse('not-found');
  return (await allColumns(db())).filter((column) => known.lineage.includes(column.placeId));
}

/** Papers directly in a place that the filter and the conditions leave. */
function shownIn(
  actor: Actor,
  placeId: string,
  filter: string,
  conditions: Conditions,
  columns: readonly Column[],
): SQL {
  const words = searchKey(filter);
  const found = words === '' ? sql`true` : sql`${document.searchKey} like ${`%${escapeLike(words)}%`}`;
  return sql`${document.homeId} = ${placeId} and ${paperAllows(actor, 'see')} and ${found} and ${meetsAll(actor, conditions, columns)}`;
}

/** A page of the papers filed directly in a place, by key and not by offset: cost does not grow with depth. */
export async function ledgerPage(actor: Actor, input: ReadInputOf<'ledger.page'>): Promise<LedgerPage> {
  const columns = await columnsIn(actor, input.placeId);
  const up = input.direction === 'up';
  const sortColumn = columns.find((column) => column.id === input.sort && !column.retired);
  // A column that is gone from the address's sort is no reason to show nothing.
  const { by, type } = sortColumn
    ? columnKey(sortColumn, up)
    : sortKeys[isLedgerSort(input.sort) ? input.sort : 'title'];
  const shown = shownIn(actor, input.placeId, input.filter, input.conditions ?? [], columns);
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
  return {
    rows: rows.map(({ key: _key, ...row }) => asRow(row)),
    next: last ? JSON.stringify([last.key, last.title, last.id]) : null,
    totals,
    names: await namesFor(
      db(),
      actor,
      columns,
      rows.map((row) => row.values),
    ),
  };
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
    .where(shown);
  return sums ?? { papers: 0, sizeBytes: 0, pages: 0 };
}

/** How many values of a column are listed at the most. */
const mostValues = 500;

/** The values present in a column with how many papers have each, under all conditions but its own. */
export async function valueCounts(actor: Actor, input: ReadInputOf<'ledger.counts'>): Promise<ValueCounts> {
  const columns = await columnsIn(actor, input.placeId);
  const column = columns.find((each) => each.id === input.columnId && !each.retired);
  if (!column) refuse('not-found');
  const others = input.conditions.filter((condition) => condition.of !== column.id);
  const shown = shownIn(actor, input.placeId, input.filter, others, columns);
  const value = sql`${document.shownValues} -> ${column.id}`;
  const rows = await db().execute<{ value: AskedFor; papers: number }>(sql`
    select held.value, count(*)::int as papers
    from ${document},
         lateral (select ${value} as value where jsonb_typeof(${value}) is distinct from 'array'
                  union all
                  select each from jsonb_array_elements(case jsonb_typeof(${value}) when 'array' then ${value} else '[]'::jsonb end) as each) as held
    where ${shown}
    group by held.value order by papers desc limit ${mostValues}`);
  const lexicons = lexiconsOf(await allLists(db()));
  const one = { ...column, type: column.type === 'choices' ? ('choice' as const) : column.type };
  const named = await namesFor(
    db(),
    actor,
    [one],
    rows.rows.flatMap((row) => (row.value === null ? [] : [{ [one.id]: row.value }])),
  );
  // What a value names may not be open to the asker: such papers count among those without a value they may know.
  const hidden = (row: { value: AskedFor }) =>
    isReferring(one.type) && row.value !== null && named[String(row.value)] === undefined;
  const listed = rows.rows.filter((row) => !hidden(row));
  return listed.map((row) => ({
    ...row,
    name: row.value === null ? `No ${column.name.toLowerCase()}` : inWords(one, row.value, asNames(lexicons, named)),
  }));
}

/** Papers wherever they are filed, with the place that they lie in. */
export async function placedPapers(actor: Actor, which: SQL, most: number): Promise<PlacedPaper[]> {
  const rows = await db()
    .select({ ...rowColumns(actor), homeId: place.id, homeName: fullName })
    .from(document)
    .innerJoin(person, eq(person.id, document.filedBy))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(paperAllows(actor, 'see'), which))
    .orderBy(sql`${document.changedAt} desc, ${document.id}`)
    .limit(most);
  return rows.map(asRow);
}

/** The papers that changed last, of all that the actor may see: forty are enough for a desk. */
export const latelyChanged = (actor: Actor): Promise<PlacedPaper[]> => placedPapers(actor, sql`true`, 40);

/** Papers by their ids, of those the actor may see. */
export const papersByIds = (
  actor: Actor,
  { documentIds }: { documentIds: readonly string[] },
): Promise<PlacedPaper[]> => placedPapers(actor, inArray(document.id, [...documentIds]), 5000);

/** What lies in the disposal tray, of the papers that the actor may put back. */
export async function disposedPapers(actor: Actor): Promise<DisposedPaper[]> {
  const rows = await db()
    .select({
      ...rowColumns(actor),
      homeId: place.id,
      homeName: fullName,
      disposedAt: document.disposedAt,
      disposedBy: sql<string>`coalesce((select gone.name from person as gone where gone.id = ${document.disposedBy}), '')`,
    })
    .from(document)
    .innerJoin(person, eq(person.id, document.filedBy))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(paperIsDisposed(actor))
    .orderBy(sql`${document.disposedAt} desc, ${document.id}`)
    .limit(1000);
  return rows.map((row) => ({ ...asRow(row), disposedAt: row.disposedAt?.toISOString() ?? '' }));
}
