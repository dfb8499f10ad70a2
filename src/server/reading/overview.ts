import { sql } from 'drizzle-orm';
import {
  askedAgain,
  readingPriority,
  readingOf,
  readingStates,
  type ReadingState,
  type StageResult,
} from '@/core/reading/stages';
import { actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { db } from '../db/client';
import { apart } from '../db/transaction';
import { requireKeeper } from '../gate/keeper';
import { queue } from '../jobs/queue';

/** The most papers that are listed as not read. */
const mostListed = 500;
/** The time over which the pace is taken. */
const paceMinutes = 10;
/** How many contents are added to the queue in one statement. */
const addedAtOnce = 5000;

/** How far reading has come, by what the stages of a content came to. One row for each way in which they did. */
const outcomes = sql`
  select blob.sha256,
    coalesce((select jsonb_agg(jsonb_build_object('stage', stage, 'program', program, 'outcome', outcome, 'why', why) order by stage)
      from reading_stage where reading_stage.sha256 = blob.sha256), '[]'::jsonb) as results,
    exists (select from reading_attempt where reading_attempt.sha256 = blob.sha256) as begun
  from blob
  where exists (select from version join document on document.version_id = version.id where version.sha256 = blob.sha256)
    or exists (select from attachment where attachment.sha256 = blob.sha256)`;

interface Combination {
  readonly results: StageResult[];
  readonly begun: boolean;
  readonly contents: number;
  [column: string]: unknown;
}

/** How reading the whole library stands, for its keepers. */
export const libraryReading = asks('library.reading', async (actor) => {
  requireKeeper(actor);
  const since = new Date(now().getTime() - paceMinutes * 60_000).toISOString();
  const [combinations, lately, listed] = await Promise.all([
    db().execute<Combination>(sql`
      select results, begun, count(*)::int as contents from (${outcomes}) as each group by results, begun`),
    db().execute<{ lately: number }>(sql`
      select count(*)::int as lately from reading_stage where stage = 'facts' and made_at > ${since}::timestamptz`),
    db().execute<Listed>(sql`
      select document.id as "documentId", document.title, document.stamp, home.id as "homeId", home.name as "homeName",
        each.results
      from (${outcomes}) as each
        join version on version.sha256 = each.sha256
        join document on document.version_id = version.id and document.disposed_at is null
        join place as home on home.id = document.home_id
      where jsonb_path_exists(each.results, '$[*] ? (@.outcome == "failed" || @.outcome == "part")')
      order by document.changed_at desc
      limit ${mostListed}`),
  ]);
  const states = Object.fromEntries(readingStates.map((state) => [state, 0])) as Record<ReadingState, number>;
  for (const { results, begun, contents } of combinations.rows) states[readingOf(results, begun).state] += contents;
  const read = lately.rows[0]?.lately ?? 0;
  const waiting = states.waiting + states.beingRead;
  return {
    states,
    lately: read,
    secondsLeft: waiting === 0 || read === 0 ? null : Math.ceil((waiting / read) * paceMinutes * 60),
    notRead: listed.rows.map(({ results, ...paper }) => ({ ...paper, ...readingOf(results, false) })),
  };
});

interface Listed {
  readonly documentId: string;
  readonly title: string;
  readonly stamp: 'PDF';
  readonly homeId: string;
  readonly homeName: string;
  readonly results: StageResult[];
  [column: string]: unknown;
}

/** Has contents read anew. Has no journal entry: it changes nothing that is filed. What was found stays until it is found anew. */
export const readLibraryAgain = actsInSteps('library.readAgain', async (actor, { stamp, which }) => {
  requireKeeper(actor);
  const again = await apart(async (tx) => {
    const { rows } = await tx.execute<{ sha256: string; sizeBytes: number }>(sql`
      with chosen as (
        select distinct version.sha256 from version join document on document.version_id = version.id
        where (${stamp}::text is null or version.stamp = ${stamp})
          and (${which} = 'all' or exists (select from reading_stage
            where reading_stage.sha256 = version.sha256 and reading_stage.outcome in ('failed', 'part')))
      ), stale as (
        update reading_stage set program = ${askedAgain} from chosen where reading_stage.sha256 = chosen.sha256
      ), forgotten as (
        delete from reading_attempt using chosen where reading_attempt.sha256 = chosen.sha256
      )
      select blob.sha256, blob.size_bytes::float8 as "sizeBytes" from chosen join blob on blob.sha256 = chosen.sha256`);
    return rows;
  });
  const boss = await queue();
  for (let at = 0; at < again.length; at += addedAtOnce)
    await boss.insert(
      again.slice(at, at + addedAtOnce).map(({ sha256, sizeBytes }) => ({
        name: 'read',
        data: { sha256 },
        priority: readingPriority(sizeBytes),
      })),
    );
  return { contents: again.length };
});
