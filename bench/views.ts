/**
 * Measures opening views: `npm run bench:views [-- --papers 100000]`. Thirty questions, each with rows, groups, totals and the counts
 * of ten columns, as three people; beside them the same answers by SQL written by hand, in the same run on the same
 * database; then the questions again while others write twenty changes a second.
 */
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { sql, type SQL } from 'drizzle-orm';
import { writableDb, disconnect } from '@/server/db/client';
import { document, place } from '@/server/db/schema';
import { paperAllows } from '@/server/gate/visible';
import { openView } from '@/server/views/open';
import { stopTally } from '@/server/tally/host';
import type { Actor } from '@/server/gate/actor';
import type { Condition, Part } from '@/core/views/conditions';
import { firstLines } from '@/core/views/question';
import type { Grouping, Sort } from '@/core/views/spec';
import { columnarEngine, type ColumnarQuestion } from './columnar';
import { measuredLibrary } from './viewLibrary';

const at = process.argv.indexOf('--papers');
const papers = at === -1 ? 100_000 : Number(process.argv[at + 1]);
if (!Number.isInteger(papers) || papers < 1000) throw new Error('Say how many papers: --papers 100000');

const library = await measuredLibrary(papers);
const { columns, terms } = library;
if (library.builtMs !== null) console.log(`built in ${seconds(library.builtMs)}`);

interface Asked {
  readonly conditions: readonly Part[];
  readonly groupings: readonly Grouping[];
  readonly sorts: readonly Sort[];
  /** The conditions once more, as SQL over `document`. */
  readonly where: SQL;
  /** What it groups by, as SQL; null for no groups. */
  readonly by: SQL | null;
  readonly columnar: ColumnarQuestion;
}

const value = (column: string): SQL => sql`${document.shownValues} ->> ${column}`;
const by = (of: string, how: Grouping['by'] = 'value', order: Grouping['order'] = 'own'): Grouping =>
  ({ of, by: how, order, direction: 'up' }) as Grouping;

/** Five sets of conditions by six ways of arranging. */
function questions(): Asked[] {
  const pick = (of: string, ...anyOf: string[]): Condition => ({ of, anyOf }) as Condition;
  const narrowings: { conditions: Part[]; where: SQL; columnar: string }[] = [
    { conditions: [], where: sql`true`, columnar: 'true' },
    {
      conditions: [pick(columns.status, terms[0] ?? '')],
      where: sql`${document.shownValues} @> ${JSON.stringify({ [columns.status]: terms[0] })}::jsonb`,
      columnar: `status = '${terms[0]}'`,
    },
    {
      conditions: [
        pick(columns.type, terms[1] ?? '', terms[4] ?? ''),
        { of: columns.day, span: { from: '2023-01-01', to: '2024-12-31' } },
      ],
      where: sql`${value(columns.type)} in (${terms[1]}, ${terms[4]}) and ${value(columns.day)} between '2023-01-01' and '2024-12-31'`,
      columnar: `type in ('${terms[1]}', '${terms[4]}') and day between '2023-01-01' and '2024-12-31'`,
    },
    {
      conditions: [
        { of: 'title', text: 'contains', words: 'port 1' },
        { of: columns.amount, from: 100, to: null },
      ],
      where: sql`${document.searchKey} like '%port 1%' and (${value(columns.amount)})::float8 >= 100`,
      columnar: `contains(search_key, 'port 1') and amount >= 100`,
    },
    {
      conditions: [
        {
          how: 'any',
          parts: [pick('kind', 'SCAN'), { how: 'none', parts: [pick(columns.topics, terms[2] ?? '', terms[7] ?? '')] }],
        },
      ],
      where: sql`(${document.stamp} = 'SCAN' or not (${document.shownValues} @> ${JSON.stringify({ [columns.topics]: [terms[2]] })}::jsonb
        or ${document.shownValues} @> ${JSON.stringify({ [columns.topics]: [terms[7]] })}::jsonb))`,
      columnar: `(stamp = 'SCAN' or not coalesce(list_has_any(topics, ['${terms[2]}'::uuid, '${terms[7]}'::uuid]), false))`,
    },
  ];
  const arrangings: { groupings: Grouping[]; sorts: Sort[]; by: SQL | null; columnar: string | null }[] = [
    { groupings: [], sorts: [], by: null, columnar: null },
    {
      groupings: [],
      sorts: [
        { of: columns.amount, direction: 'down' },
        { of: 'filedAt', direction: 'down' },
      ] as Sort[],
      by: null,
      columnar: null,
    },
    { groupings: [by(columns.type)], sorts: [], by: value(columns.type), columnar: 'type' },
    { groupings: [by(columns.day, 'year')], sorts: [], by: sql`left(${value(columns.day)}, 4)`, columnar: 'year(day)' },
    {
      groupings: [by(columns.status), by(columns.type)],
      sorts: [],
      by: sql`(${value(columns.status)}, ${value(columns.type)})`,
      columnar: 'status, type',
    },
    { groupings: [by('kind', 'value', 'papers')], sorts: [], by: sql`${document.stamp}`, columnar: 'stamp' },
  ];
  return narrowings.flatMap((narrowing) =>
    arrangings.map((arranging): Asked => ({
      ...narrowing,
      ...arranging,
      columnar: {
        where: narrowing.columnar,
        by: arranging.columnar,
        order: arranging.sorts.length > 0 ? 'amount desc nulls last, filed_at desc, title' : 'title',
      },
    })),
  );
}

const counted = [
  columns.type,
  columns.status,
  columns.topics,
  columns.author,
  columns.day,
  columns.signed,
  columns.owner,
  columns.tenant,
  'kind',
  'label',
];
/** Each set of conditions with two arrangements; with one where the library is very large. */
const byHandEvery = papers > 500_000 ? 6 : 3;

const ask = (actor: Actor, asked: Asked) =>
  openView(actor, {
    placeId: library.rootId,
    below: true,
    filter: '',
    conditions: asked.conditions,
    groupings: asked.groupings,
    sorts: asked.sorts,
    counts: counted,
    measures: [columns.amount],
    start: 0,
    limit: firstLines,
  });

/** The same answers by hand: totals, groups, the counts of ten columns, and the rows. Answers how many papers it counted. */
async function bySql(actor: Actor, asked: Asked): Promise<number> {
  const from = sql`from ${document} join ${place} on ${place.id} = ${document.homeId} where ${paperAllows(actor, 'see')} and ${asked.where}`;
  const sums = sql`count(*)::int as papers, sum(${document.pageCount}), sum(${document.sizeBytes}), sum((${value(columns.amount)})::float8)`;
  const [total] = (await writableDb().execute<{ papers: number }>(sql`select ${sums} ${from}`)).rows;
  if (asked.by) await writableDb().execute(sql`select ${asked.by} as key, ${sums} ${from} group by 1`);
  const single = [columns.type, columns.status, columns.author, columns.signed, columns.owner, columns.tenant];
  for (const column of single) await writableDb().execute(sql`select ${value(column)}, count(*) ${from} group by 1`);
  await writableDb().execute(sql`select left(${value(columns.day)}, 7), count(*) ${from} group by 1`);
  await writableDb().execute(sql`select ${document.stamp}, count(*) ${from} group by 1`);
  await writableDb().execute(sql`
    select topic, count(*) from (select jsonb_array_elements_text(case when ${document.shownValues} ? ${columns.topics}
      then ${document.shownValues} -> ${columns.topics} else '[null]'::jsonb end) as topic ${from}) as each group by 1`);
  await writableDb().execute(sql`
    select label_id, count(*) from (select ${document.id} as id ${from}) as shown left join document_label on document_id = shown.id group by 1`);
  await writableDb().execute(
    sql`select ${document.id}, ${document.title}, ${document.shownValues} ${from} order by ${document.title} limit ${firstLines}`,
  );
  return total?.papers ?? 0;
}

function seconds(ms: number): string {
  return `${(ms / 1000).toFixed(1)} s`;
}
const centile = (times: readonly number[], share: number): number =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * share))] ?? NaN;
async function timed<T>(work: () => Promise<T>): Promise<{ ms: number; answer: T }> {
  const began = performance.now();
  const answer = await work();
  return { ms: performance.now() - began, answer };
}

const all = questions();
const columnar = await columnarEngine(columns);
setFlagsFromString('--expose_gc');
const collect = runInNewContext('gc') as () => void;
const heap = () => {
  collect();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return (heapUsed + arrayBuffers) / 1_000_000;
};
const before = heap();
const [keeper] = library.who;
if (!keeper || !all[0]) throw new Error('Nobody asks nothing');
const first = all[0];
const loading = await timed(() => ask(keeper.actor, first));
console.log(`${papers} papers: read in ${seconds(loading.ms)}, ${Math.round(heap() - before)} MB`);

interface Line {
  readonly who: string;
  readonly quiet: readonly number[];
  readonly busy: readonly number[];
  readonly bySql: readonly number[];
  readonly pairs: readonly number[];
  readonly columnar: readonly number[];
}
const lines: Line[] = [];
for (const { name, actor } of library.who) {
  for (const asked of all.slice(0, 6)) await ask(actor, asked);
  const quiet: number[] = [];
  const sqlMs: number[] = [];
  const pairs: number[] = [];
  const columnarMs: number[] = [];
  for (const [index, asked] of all.entries()) {
    const told = await timed(() => ask(actor, asked));
    quiet.push(told.ms);
    if (columnar) {
      const engine = await timed(() => columnar(actor, asked.columnar));
      if (engine.answer !== told.answer.totals?.papers)
        throw new Error(
          `${name}, question ${index}: ${told.answer.totals?.papers} papers, by the engine ${engine.answer}`,
        );
      columnarMs.push(engine.ms);
    }
    // By hand each costs seconds, so not every question is put to SQL.
    if (index % byHandEvery !== 0) continue;
    const hand = await timed(() => bySql(actor, asked));
    if (hand.answer !== told.answer.totals?.papers)
      throw new Error(`${name}, question ${index}: ${told.answer.totals?.papers} papers, by hand ${hand.answer}`);
    sqlMs.push(hand.ms);
    pairs.push(hand.ms / told.ms);
  }
  lines.push({ who: name, quiet, bySql: sqlMs, pairs, columnar: columnarMs, busy: await whileWriting(actor) });
}

/** The questions again while another connection writes twenty changes a second. */
async function whileWriting(actor: Actor): Promise<number[]> {
  let writing = true;
  let written = 0;
  const everyMs = 50;
  const began = performance.now();
  const writer = (async () => {
    while (writing) {
      await writableDb().execute(sql`
        update document set shown_values = shown_values || ${JSON.stringify({ [columns.status]: terms[written % 3] })}::jsonb
        where id = ${`00000016-0000-4000-8000-${String(1 + ((written * 7919) % papers)).padStart(12, '0')}`}`);
      written += 1;
      const next = began + written * everyMs - performance.now();
      if (next > 0) await new Promise((done) => setTimeout(done, next));
    }
  })();
  const busy: number[] = [];
  for (const asked of all) busy.push((await timed(() => ask(actor, asked))).ms);
  writing = false;
  await writer;
  // Exact to the last change: what is counted now is what SQL counts now.
  const [now, hand] = [await ask(actor, all[6] ?? first), await bySql(actor, all[6] ?? first)];
  if (now.totals?.papers !== hand)
    throw new Error(`After ${written} changes ${now.totals?.papers} papers, by hand ${hand}`);
  return busy;
}

const ms = (number: number): string => number.toFixed(0);
console.log(
  '| papers | who | p50 ms | p95 ms | p95 while written ms | by SQL p50 ms | SQL / tally, median | columnar engine p50 ms | p95 ms |',
);
console.log('| --- | --- | --- | --- | --- | --- | --- | --- | --- |');
for (const { who, quiet, busy, bySql: hand, pairs, columnar: engine } of lines)
  console.log(
    `| ${papers.toLocaleString('en-GB')} | ${who} | ${ms(centile(quiet, 0.5))} | ${ms(centile(quiet, 0.95))} | ${ms(centile(busy, 0.95))} | ${ms(centile(hand, 0.5))} | ${ms(centile(pairs, 0.5))} | ${ms(centile(engine, 0.5))} | ${ms(centile(engine, 0.95))} |`,
  );
await stopTally();
await disconnect();
