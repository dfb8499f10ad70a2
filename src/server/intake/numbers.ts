import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { arrivalWays } from '@/core/intake/model';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { arrival, library } from '../db/schema';
import { howSureOfFiled } from './howSure';

/** So many months are told of, this one among them. */
const months = 12;
const mostFields = 12;

/** What the intake comes to: how much arrives, how much of it is filed as proposed, how long it waits, and what is corrected. */
export const intakeNumbers = asks('intake.numbers', async ({ keeper }) => {
  if (!keeper) refuse('not-allowed', 'The numbers of the intake are for keepers.');
  const [zone] = await db().select({ timeZone: library.timeZone }).from(library);
  const { rows: arrived } = await db().execute<{ month: string; way: string; count: number }>(sql`
    with month as (
      select to_char(first, 'YYYY-MM') as month, first from generate_series(
        date_trunc('month', now() at time zone ${zone?.timeZone ?? 'UTC'}) - interval '${sql.raw(String(months - 1))} months',
        date_trunc('month', now() at time zone ${zone?.timeZone ?? 'UTC'}), interval '1 month') as first
    )
    select month, kind as way, (select count(*)::int from ${arrival}
      where ${arrival.way} = kind and ${arrival.state} <> 'again'
        and ${arrival.arrivedAt} >= first at time zone ${zone?.timeZone ?? 'UTC'}
        and ${arrival.arrivedAt} < (first + interval '1 month') at time zone ${zone?.timeZone ?? 'UTC'}) as count
    from month cross join unnest(${sql.param([...arrivalWays])}::text[]) as kind
    order by month, kind`);
  const isFiled = eq(arrival.state, 'filed');
  const [filed] = await db()
    .select({
      known: sql<number>`count(*) filter (where ${arrival.corrected} is not null)::int`,
      unchanged: sql<number>`count(*) filter (where ${arrival.corrected} = '{}')::int`,
      byRule: sql<number>`count(*) filter (where ${arrival.byRule} is not null)::int`,
    })
    .from(arrival)
    .where(isFiled);
  const [waited] = await db()
    .select({
      half: sql<
        number | null
      >`percentile_cont(0.5) within group (order by extract(epoch from ${arrival.doneAt} - ${arrival.arrivedAt}))::float8`,
      most: sql<
        number | null
      >`percentile_cont(0.9) within group (order by extract(epoch from ${arrival.doneAt} - ${arrival.arrivedAt}))::float8`,
    })
    .from(arrival)
    .where(and(isFiled, isNull(arrival.byRule), sql`${arrival.doneAt} >= ${arrival.arrivedAt}`));
  const field = sql<string>`unnest(${arrival.corrected})`;
  const corrected = await db()
    .select({ field, count: sql<number>`count(*)::int` })
    .from(arrival)
    .where(isFiled)
    .groupBy(field)
    .orderBy(desc(sql`count(*)`), field)
    .limit(mostFields);
  return {
    months: [...new Set(arrived.map(({ month }) => month))].map((month) => ({
      month,
      ways: Object.fromEntries(arrived.flatMap((each) => (each.month === month ? [[each.way, each.count]] : []))),
    })),
    ...{ known: filed?.known ?? 0, unchanged: filed?.unchanged ?? 0, byRule: filed?.byRule ?? 0 },
    waited: !waited || waited.half === null || waited.most === null ? null : { half: waited.half, most: waited.most },
    corrected,
    sure: await howSureOfFiled(),
  };
});
