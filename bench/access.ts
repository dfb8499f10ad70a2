/**
 * Measures changing who may open what: `npm run bench:access [-- --papers 100000]`. A sheet above a sixth of the papers,
 * and the members of a group that is named on the sheets above them all, in a library of 300 scopes; what each change
 * would do, said before; and whether those who read meanwhile get what was before or what is after, and nothing else.
 */
import { sql } from 'drizzle-orm';
import { setAccess } from '@/server/access/change';
import { forecastAccess } from '@/server/access/forecast';
import { recomputeAllScopes } from '@/server/scopes/scopes';
import { writableDb, disconnect } from '@/server/db/client';
import { transaction } from '@/server/db/transaction';
import { changeGroup, createGroup } from '@/server/people/people';
import { openView } from '@/server/views/open';
import { stopTally } from '@/server/tally/host';
import { inGroup, plainQuestion } from '../tests/library';
import { measuredLibrary } from './viewLibrary';

const at = process.argv.indexOf('--papers');
const papers = at === -1 ? 100_000 : Number(process.argv[at + 1]);
if (!Number.isInteger(papers) || papers < 1000) throw new Error('Say how many papers: --papers 100000');
const rounds = 10;

const library = await measuredLibrary(papers, 'access');
const [keeper, reader] = library.who.map((each) => each.actor);
if (!keeper || !reader) throw new Error('Nobody is there to measure with');
if (library.builtMs !== null) console.log(`built in ${Math.round(library.builtMs / 1000)} s`);

// The measured library has its scopes without sheets: here each gets the sheet that it would come from.
await transaction(['access'], async (tx) => {
  await tx.execute(sql`
    insert into access_grant (place_id, person_id, gives)
    select scope.place_id, scope_entry.person_id, scope_entry.capabilities from scope_entry
    join scope on scope.id = scope_entry.scope_id join place on place.id = scope.place_id and place.kind <> 'library'
    on conflict do nothing`);
  await recomputeAllScopes(tx);
});
const series = (
  await writableDb().execute<{ id: string; revision: number }>(
    sql`select id::text, access_revision as revision from place where kind = 'series' order by position`,
  )
).rows;
const { id: groupId } = await createGroup(keeper, { name: `Measured ${Date.now()}` });
const asGroup = { subject: { kind: 'group' as const, id: groupId }, gives: ['see' as const], withholds: [] };

const sheet = async (placeId: string, revision: number, grants: (typeof asGroup)[]): Promise<number> =>
  (
    await setAccess(keeper, {
      on: { kind: 'place', id: placeId },
      follows: true,
      grants,
      revision,
      message: null,
    })
  ).revision;

const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const began = performance.now();
  await work();
  return performance.now() - began;
};
const median = (all: readonly number[]): number => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)] ?? 0;
const shown = (all: readonly number[]) =>
  `median ${Math.round(median(all))} ms of ${all.length}, at most ${Math.round(Math.max(...all))} ms`;

const seen = async (): Promise<number> =>
  (await openView(reader, { ...plainQuestion, placeId: library.rootId, below: true, limit: 1 })).totals?.papers ?? 0;

for (const each of series) await sheet(each.id, each.revision, [asGroup]);
const without = await seen();

const forecasts: number[] = [];
for (let round = 0; round < rounds; round += 1)
  forecasts.push(
    await timed(() =>
      forecastAccess(keeper, { on: { kind: 'place', id: series[0]?.id ?? '' }, follows: true, grants: [] }),
    ),
  );

const sheets: number[] = [];
let [first] = series.map((each) => each.revision + 1);
for (let round = 0; round < rounds; round += 1)
  sheets.push(
    await timed(async () => {
      first = await sheet(series[0]?.id ?? '', first ?? 0, round % 2 === 0 ? [] : [asGroup]);
    }),
  );

const members = (is: boolean) => (is ? inGroup(reader) : []);
const changes: number[] = [];
let [reads, wrong, running] = [0, 0, true];
await changeGroup(keeper, { groupId, name: `Measured ${groupId}`, terms: members(true), revision: 0 });
const withAll = await seen();
const reading = (async () => {
  while (running) {
    const now = await seen();
    reads += 1;
    if (now !== without && now !== withAll) wrong += 1;
  }
})();
for (let round = 1; round <= rounds; round += 1)
  changes.push(
    await timed(() =>
      changeGroup(keeper, { groupId, name: `Measured ${groupId}`, terms: members(round % 2 === 0), revision: round }),
    ),
  );
running = false;
await reading;
if (wrong > 0) throw new Error(`${wrong} of ${reads} answers were neither what was before nor what is after`);

console.log(`${papers} papers, 300 scopes, 25 people`);
console.log(`a sheet above a sixth of them:      ${shown(sheets)}`);
console.log(`what it would do, said before:      ${shown(forecasts)}`);
console.log(`a group's members, above them all:  ${shown(changes)}`);
console.log(`read meanwhile: ${reads} times, each ${without} or ${withAll} papers`);
await stopTally();
await disconnect();
