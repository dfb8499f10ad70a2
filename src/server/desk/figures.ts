import { asc, eq, isNull, sql } from 'drizzle-orm';
import type { Stamp } from '@/core/files/fileKind';
import { asks } from '../acts/operation';
import { now } from '../base/clock';
import { db } from '../db/client';
import { document, place } from '../db/schema';
import { requireKeeper } from '../gate/keeper';
import { librarySettings } from '../library/settings';

const months = 12;

/** The whole library in numbers, for keepers: what was filed by month and series, the kinds, and how it has grown. */
export const figuresOf = asks('desk.figures', async (actor) => {
  requireKeeper(actor);
  const { timeZone } = await librarySettings();
  const month = sql<string>`to_char(${document.filedAt} at time zone ${timeZone}, 'YYYY-MM')`;
  const [rows, series] = await Promise.all([
    db()
      .select({
        month,
        // The library is first in a lineage, the series second.
        seriesId: sql<string>`${place.lineage}[2]`,
        stamp: document.stamp,
        papers: sql<number>`count(*)::int`,
        sizeBytes: sql<number>`sum(${document.sizeBytes})::float8`,
      })
      .from(document)
      .innerJoin(place, eq(place.id, document.homeId))
      .where(isNull(document.disposedAt))
      .groupBy(sql`1, 2, 3`),
    db()
      .select({ id: place.id, name: place.name })
      .from(place)
      .where(eq(place.kind, 'series'))
      .orderBy(asc(place.position), asc(place.id)),
  ]);
  const lately = lastMonths(now(), timeZone);
  const sum = <K extends string>(key: (row: (typeof rows)[number]) => K, among = rows) =>
    among.reduce((sums, row) => sums.set(key(row), (sums.get(key(row)) ?? 0) + row.papers), new Map<K, number>());
  const byMonth = [...sum((row) => row.month)];
  return {
    papers: rows.reduce((all, row) => all + row.papers, 0),
    sizeBytes: rows.reduce((all, row) => all + row.sizeBytes, 0),
    series,
    filed: [
      ...sum(
        (row) => `${row.month} ${row.seriesId}`,
        rows.filter((row) => lately.includes(row.month)),
      ),
    ].map(([key, papers]) => {
      const [at = '', seriesId = ''] = key.split(' ');
      return { month: at, seriesId, papers };
    }),
    kinds: [...sum((row): Stamp => row.stamp)]
      .map(([stamp, papers]) => ({ stamp, papers }))
      .sort((one, other) => other.papers - one.papers),
    growth: lately.map((end) => ({
      month: end,
      papers: byMonth.reduce((all, [at, papers]) => (at <= end ? all + papers : all), 0),
    })),
  };
});

/** The last twelve months, oldest first, as `2026-07`. */
function lastMonths(at: Date, timeZone: string): string[] {
  const parts = new Intl.DateTimeFormat('en-GB', { timeZone, year: 'numeric', month: 'numeric' }).formatToParts(at);
  const part = (type: string) => Number(parts.find((each) => each.type === type)?.value);
  const last = part('year') * 12 + part('month') - 1;
  return Array.from({ length: months }, (_, index) => {
    const one = last - (months - 1) + index;
    return `${Math.floor(one / 12)}-${String((one % 12) + 1).padStart(2, '0')}`;
  });
}
