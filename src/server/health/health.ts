import { asc, gt, sql } from 'drizzle-orm';
import { findings, type Finding, type FoundOf, type FoundThing } from '@/core/health/model';
import { asks } from '../acts/operation';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { healthCount } from '../db/schema';
import { requireKeeper } from '../gate/keeper';
import { isFounded } from '../library/found';
import { librarySettings } from '../library/settings';
import { findingSql } from './findings';

/** So many things of a finding are listed, and its numbers of so many days are told. */
const [mostListed, mostDays] = [500, 90];

/** What is found in the library now, by number, and how that went over time; for keepers. */
export const healthCounts = asks('health.counts', async (actor): Promise<readonly FoundOf[]> => {
  requireKeeper(actor);
  const numbers = await countAll();
  const since = new Date(now().getTime() - mostDays * 86_400_000).toISOString().slice(0, 10);
  const rows = await db()
    .select({ finding: healthCount.finding, day: healthCount.day, number: healthCount.number })
    .from(healthCount)
    .where(gt(healthCount.day, since))
    .orderBy(asc(healthCount.day));
  return findings.map((finding) => ({
    finding,
    number: numbers[finding],
    before: rows.flatMap((row) => (row.finding === finding ? [{ day: row.day, number: row.number }] : [])),
  }));
});

/** The things of one finding, by name. */
export const healthList = asks('health.list', async (actor, { finding }): Promise<readonly FoundThing[]> => {
  requireKeeper(actor);
  const { rows } = await db().execute<{ name: string; about: string | null; address: string }>(
    sql`select * from (${findingSql[finding]()}) as found order by name, address limit ${mostListed}`,
  );
  return rows.map((row) => ({ ...row, about: row.about ?? '' }));
});

async function countAll(): Promise<Record<Finding, number>> {
  const counts = {} as Record<Finding, number>;
  for (const finding of findings) {
    const { rows } = await db().execute<{ number: string }>(
      sql`select count(*) as number from (${findingSql[finding]()}) as found`,
    );
    counts[finding] = Number(rows[0]?.number ?? 0);
  }
  return counts;
}

/** Notes today's numbers; once a day, and again where it is called again. */
export async function noteHealth(): Promise<void> {
  if (!(await isFounded())) return;
  const { timeZone } = await librarySettings();
  const day = new Intl.DateTimeFormat('en-CA', { timeZone }).format(now());
  const counts = await countAll();
  await writableDb()
    .insert(healthCount)
    .values(findings.map((finding) => ({ finding, day, number: counts[finding] })))
    .onConflictDoUpdate({
      target: [healthCount.finding, healthCount.day],
      set: { number: sql`excluded.number` },
    });
}
