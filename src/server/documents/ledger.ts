import { and, eq, sql, type SQL } from 'drizzle-orm';
import { z } from 'zod';
import type { ReadInputOf } from '@/core/contract';
import { refuse } from '@/core/errors/refusal';
import type { PlacedPaper } from '@/core/documents/contract';
import type { DisposedPaper, LedgerPage, LedgerSort, PaperRow } from '@/core/documents/model';
import { searchKey } from '@/core/text/fold';
import type { Actor } from '../access/actor';
import { paperAllows, paperIsDisposed, placeIsKnown } from '../access/visible';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { document, person, place } from '../db/schema';
import { fullName } from '../places/rows';

const rowColumns = {
  id: document.id,
  title: document.title,
  stamp: document.stamp,
  sizeBytes: document.sizeBytes,
  pageCount: document.pageCount,
  filedBy: person.name,
  filedAt: document.filedAt,
  changedAt: document.changedAt,
  revision: document.revision,
};

type SelectedRow = Omit<PaperRow, 'filedAt' | 'changedAt'> & { filedAt: Date; changedAt: Date };

const asRow = <T extends SelectedRow>(row: T) => ({
  ...row,
  filedAt: row.filedAt.toISOString(),
  changedAt: row.changedAt.toISOString(),
});

/** What each sort compares, and the type its key has in SQL. Unknown page counts come first. */
const sortKeys: Record<LedgerSort, { readonly by: SQL; readonly type: string }> = {
  title: { by: sql`${document.title}`, type: 'text' },
  stamp: { by: sql`${document.stamp}`, type: 'text' },
  size: { by: sql`${document.sizeBytes}`, type: 'bigint' },
  pages: { by: sql`coalesce(${document.pageCount}, 0)`, type: 'integer' },
  filedBy: { by: sql`${person.name}`, type: 'text' },
  filedAt: { by: sql`${document.filedAt}`, type: 'timestamptz' },
  changedAt: { by: sql`${document.changedAt}`, type: 'timestamptz' },
};

/** Where a page ended: its last row's sort key, title and id. */
const cursorSchema = z.tuple([z.string(), z.string(), z.uuid()]);

function readCursor(after: string): z.output<typeof cursorSchema> {
  try {
    return cursorSchema.parse(JSON.parse(after));
  } catch {
    return refuse('invalid', 'The list cannot be continued from there. Open it again.');
  }
}

/** A page of the papers filed directly in a place, by key and not by offset: cost does not grow with depth. */
export async function ledgerPage(actor: Actor, input: ReadInputOf<'ledger.page'>): Promise<LedgerPage> {
  const [known] = await db()
    .select({ id: place.id })
    .from(place)
    .where(and(eq(place.id, input.placeId), placeIsKnown(actor)));
  if (!known) refuse('not-found');
  const { by, type } = sortKeys[input.sort];
  const words = searchKey(input.filter);
  const shown = and(
    eq(document.homeId, input.placeId),
    paperAllows(actor, 'see'),
    words === '' ? sql`true` : sql`${document.searchKey} like ${`%${escapeLike(words)}%`}`,
  );
  const up = input.direction === 'up';
  const beyond = input.after === null ? sql`true` : beyondKey(readCursor(input.after), by, type, up);
  const order = up
    ? sql`${by} asc, ${document.title} asc, ${document.id} asc`
    : sql`${by} desc, ${document.title} desc, ${document.id} desc`;
  const [rows, totals] = await Promise.all([
    db()
      .select({ ...rowColumns, key: sql<string>`${by}::text` })
      .from(document)
      .innerJoin(person, eq(person.id, document.filedBy))
      .where(and(shown, beyond))
      .orderBy(order)
      .limit(input.limit),
    input.after === null ? ledgerTotals(shown ?? sql`false`) : null,
  ]);
  const last = rows.length === input.limit ? rows.at(-1) : undefined;
  return {
    rows: rows.map(({ key: _key, ...row }) => asRow(row)),
    next: last ? JSON.stringify([last.key, last.title, last.id]) : null,
    totals,
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

/** The papers that changed last, of all that the actor may see: forty are enough for a desk. */
export async function latelyChanged(actor: Actor): Promise<PlacedPaper[]> {
  const rows = await db()
    .select({ ...rowColumns, homeId: place.id, homeName: fullName })
    .from(document)
    .innerJoin(person, eq(person.id, document.filedBy))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(paperAllows(actor, 'see'))
    .orderBy(sql`${document.changedAt} desc, ${document.id}`)
    .limit(40);
  return rows.map(asRow);
}

/** What lies in the disposal tray, of the papers that the actor may put back. */
export async function disposedPapers(actor: Actor): Promise<DisposedPaper[]> {
  const rows = await db()
    .select({
      ...rowColumns,
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
