/**
 * Measures finding: `npm run bench:search [-- --papers 100000]`. Sixty fixed questions of every sort with the counts of three columns, as
 * three people, answered by the tally; beside them the same papers counted and ranked by PostgreSQL's own full text under
 * the same access, on the same database in the same run; and `ripgrep` over the same texts as a file.
 */
import { execFileSync } from 'node:child_process';
import { sql, type SQL } from 'drizzle-orm';
import { readQuestion } from '@/core/search/question';
import { disconnect, writableDb } from '@/server/db/client';
import { document, place } from '@/server/db/schema';
import type { Actor } from '@/server/gate/actor';
import { paperAllows } from '@/server/gate/visible';
import { FollowedTally } from '@/server/tally/followed';
import { questioner } from '@/server/tally/questioner';
import { givenTexts, textsFile } from './searchLibrary';
import { measuredLibrary } from './viewLibrary';

const at = process.argv.indexOf('--papers');
const papers = at === -1 ? 100_000 : Number(process.argv[at + 1]);
if (!Number.isInteger(papers) || papers < 1000) throw new Error('Say how many papers: --papers 100000');

const library = await measuredLibrary(papers, 'search');
const connectionString = process.env['DATABASE_URL'] ?? '';
const indexedMs = await givenTexts(papers, connectionString);
if (indexedMs !== null) console.log(`index of ${papers} written in ${(indexedMs / 1000).toFixed(0)} s`);
const { columns, rootId } = library;
const counts = [columns.status, columns.type, 'kind'];

/** Sorts of questions; those marked are asked of PostgreSQL as well, which has no parts of numbers, dates and near words. */
const questions: Readonly<Record<string, readonly string[]>> = {
  'one rare word': [
    'checksum',
    'gigabytes',
    'lexeme',
    'wraparound',
    'kerberos',
    'autovacuum',
    'tablespace',
    'heuristic',
  ],
  'one common word': ['table', 'database', 'value', 'server', 'command', 'function', 'index', 'query'],
  'two words': [
    'replication slot',
    'query planner',
    'backup restore',
    'foreign key',
    'lock timeout',
    'value default',
    'table index',
    'user password',
  ],
  'three words': [
    'standby server recovery',
    'create index concurrently',
    'connection string parameter',
    'table column value',
    'regular expression match',
    'trigger function return',
  ],
  phrases: [
    '"write ahead log"',
    '"foreign key"',
    '"command line"',
    '"materialized view"',
    '"role name"',
    '"search path"',
  ],
  'phrases of common words': ['"the value of"', '"data type"', '"table name"', '"function returns"'],
  'without a word': ['table -index', 'server -client', 'checksum -page', 'replication -slot'],
  'title and text': ['minutes checksum', 'invoice kerberos', 'survey replication', 'berth vacuum'],
  beginnings: ['checks*', 'replic*', 'auto*', 'tabl*'],
  'parts of numbers': ['0047', '000471', '2015-00', '99123'],
  misspelt: ['checksun', 'replicaton', 'tabelspace', 'kerberso'],
};
/** What PostgreSQL's own full text can be asked in the same words. */
const bySql: ReadonlySet<string> = new Set([
  'one rare word',
  'one common word',
  'two words',
  'three words',
  'phrases',
  'without a word',
]);

const tally = new FollowedTally(connectionString);
const loading = performance.now();
await tally.load();
console.log(`tally of ${papers} papers read in ${((performance.now() - loading) / 1000).toFixed(1)} s`);

async function ask(actor: Actor, find: string) {
  const began = performance.now();
  const answer = await tally.ask(
    'view',
    {
      placeId: rootId,
      below: true,
      conditions: [{ of: 'find', find, among: 'everything' }],
      groupings: [],
      sorts: [],
      counts,
      measures: [],
      start: 0,
      limit: 60,
    },
    questioner(actor),
  );
  if (!answer.ok) throw new Error(answer.issue.says);
  return { ms: performance.now() - began, papers: answer.value.totals.papers };
}

/** The same by hand: how many, the counts of three columns, and the best sixty. */
async function askSql(actor: Actor, find: string) {
  const began = performance.now();
  const { all, none } = readQuestion(find);
  const one = (words: readonly string[]) => sql`phraseto_tsquery('english', ${words.join(' ')})`;
  const asked: SQL = sql.join(
    [...all.map(({ words }) => one(words)), ...none.map(({ words }) => sql`!!${one(words)}`)],
    sql` && `,
  );
  const from = sql`from bench_text join ${document} on ${document.id} = bench_text.document_id
    join ${place} on ${place.id} = ${document.homeId} where bench_text.words @@ (${asked}) and ${paperAllows(actor, 'see')}`;
  const [total] = (await writableDb().execute<{ papers: number }>(sql`select count(*)::int as papers ${from}`)).rows;
  for (const of of [
    sql`${document.shownValues} ->> ${columns.status}`,
    sql`${document.shownValues} ->> ${columns.type}`,
    sql`${document.stamp}`,
  ])
    await writableDb().execute(sql`select ${of}, count(*) ${from} group by 1`);
  await writableDb().execute(
    sql`select ${document.id} ${from} order by ts_rank(bench_text.words, ${asked}) desc limit 60`,
  );
  return { ms: performance.now() - began, papers: total?.papers ?? 0 };
}

const centile = (times: readonly number[], share: number): number =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * share))] ?? NaN;
const figures = (times: readonly number[]): string =>
  `${centile(times, 0.5).toFixed(1)} | ${centile(times, 0.95).toFixed(1)}`;

console.log(
  '| papers | who | questions | first p50 ms | p95 | again p50 ms | p95 | PostgreSQL p50 ms | p95 | PostgreSQL / tally at p95 |',
);
console.log('| --- | --- | --- | --- | --- | --- | --- | --- | --- | --- |');
for (const [which, { name, actor }] of library.who.entries()) {
  const everyone = { first: [] as number[], again: [] as number[], hand: [] as number[], same: [] as number[] };
  for (const [sort, some] of Object.entries(questions)) {
    const [first, again, hand]: [number[], number[], number[]] = [[], [], []];
    for (const find of some) {
      const told = await ask(actor, find);
      if (which === 0) first.push(told.ms);
      // The selection of the last few questions is kept: another question lies between.
      for (let other = 0; other < 5; other += 1) await ask(actor, `vacuum ${other}`);
      const twice = await ask(actor, find);
      again.push(twice.ms);
      if (!bySql.has(sort)) continue;
      hand.push((await askSql(actor, find)).ms);
      everyone.same.push(twice.ms);
    }
    everyone.first.push(...first);
    everyone.again.push(...again);
    everyone.hand.push(...hand);
    const ofFirst = first.length > 0 ? figures(first) : '— | —';
    console.log(
      `| ${papers} | ${name} | ${sort} | ${ofFirst} | ${figures(again)} | ${hand.length > 0 ? figures(hand) : '— | —'} | |`,
    );
  }
  const ratio = centile(everyone.hand, 0.95) / centile(everyone.same, 0.95);
  console.log(
    `| ${papers} | ${name} | all | ${everyone.first.length > 0 ? figures(everyone.first) : '— | —'} | ${figures(everyone.again)} | ${figures(everyone.hand)} | ${ratio.toFixed(1)} |`,
  );
}

const [keeper] = library.who;
if (!keeper) throw new Error('Nobody asks');
const words = questions['one common word'] ?? [];
const ripgrep = words.map((word) => {
  const began = performance.now();
  execFileSync('rg', ['--count', '--word-regexp', '--ignore-case', word, textsFile(papers)], { stdio: 'ignore' });
  return performance.now() - began;
});
const ours: number[] = [];
for (const word of words) ours.push((await ask(keeper.actor, word)).ms);
console.log(
  `one common word over the same texts: ripgrep p50 ${centile(ripgrep, 0.5).toFixed(0)} ms, the tally ${centile(ours, 0.5).toFixed(1)} ms`,
);
const memory = process.memoryUsage();
console.log(`memory: ${Math.round((memory.heapUsed + memory.arrayBuffers) / 1_000_000)} MB`);
await tally.close();
await disconnect();
