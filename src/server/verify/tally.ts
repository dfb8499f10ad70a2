import { sql } from 'drizzle-orm';
import type { Question } from '@/core/views/question';
import { now } from '../base/clock';
import { db } from '../db/client';
import { askRunningTally } from '../tally/host';
import type { Difference } from './difference';

/** How often it is tried to find the library in a moment in which nobody changes it. */
const tries = 5;
/** The nil UUID (RFC 9562, section 5.9): nobody, who sees everything. */
const nobody = '00000000-0000-0000-0000-000000000000';

/**
 * Compares what the tally of this process answers of the whole library with what the database counts. Says nothing where
 * none is running or it is being filled, or where somebody changes the library all the time.
 */
export async function tallyDifferences(rootId: string): Promise<Difference[]> {
  for (let tried = 0; tried < tries; tried += 1) {
    const before = await countedBySql();
    const told = await countedByTally(rootId);
    if (told === null) return [];
    if (told === before) return [];
    if ((await countedBySql()) === before)
      return [{ of: 'tally', about: rootId, says: `answers ${told}, and the database has ${before}` }];
  }
  return [];
}

/** Papers, pages and bytes, and papers by kind and by who filed and changed them, as one text. */
async function countedBySql(): Promise<string> {
  const { rows } = await db().execute<{ totals: unknown; kinds: unknown; filed: unknown; changed: unknown }>(sql`
    with here as (select stamp, filed_by::text, changed_by::text, page_count, size_bytes from document where disposed_at is null)
    select
      (select array[count(*)::float8, coalesce(sum(page_count), 0)::float8, coalesce(sum(size_bytes), 0)::float8] from here) as totals,
      (select coalesce(jsonb_object_agg(stamp, papers), '{}') from (select stamp, count(*) as papers from here group by 1) as by_kind) as kinds,
      (select coalesce(jsonb_object_agg(filed_by, papers), '{}') from (select filed_by, count(*) as papers from here group by 1) as by_filer) as filed,
      (select coalesce(jsonb_object_agg(changed_by, papers), '{}') from (select changed_by, count(*) as papers from here group by 1) as by_changer) as changed`);
  const [row] = rows;
  return JSON.stringify([row?.totals, sorted(row?.kinds), sorted(row?.filed), sorted(row?.changed)]);
}

async function countedByTally(placeId: string): Promise<string | null> {
  const question: Question = {
    placeId,
    below: true,
    conditions: [],
    groupings: [],
    sorts: [],
    counts: ['kind', 'filedBy', 'changedBy'],
    measures: [],
    start: 0,
    limit: 0,
  };
  const who = { personId: nobody, keeper: true, nowMs: now().getTime(), manages: true, shown: null };
  const answer = await askRunningTally('view', question, who);
  if (!answer?.ok) return null;
  const { totals, counts } = answer.value;
  const by = (of: string) => {
    const counted = counts[of];
    return sorted(
      counted?.kind === 'values'
        ? Object.fromEntries(counted.values.map(({ value, papers }) => [String(value), papers]))
        : {},
    );
  };
  return JSON.stringify([[totals.papers, totals.pages, totals.bytes], by('kind'), by('filedBy'), by('changedBy')]);
}

const sorted = (counts: unknown): unknown =>
  Object.entries(counts ?? {}).sort(([one], [other]) => (one < other ? -1 : 1));
