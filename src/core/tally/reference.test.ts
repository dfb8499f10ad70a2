/**
 * The tally against SQLite (npm sql.js, the database compiled to WebAssembly) over the same rows: an engine that shares
 * nothing with it. Conditions, counts, groups and totals are asked in SQL written here.
 */
import initSqlJs, { type Database } from 'sql.js';
import { RandomLibrary } from '../../../tests/oracle/randomLibrary';
import { Chance } from '../../../tests/oracle/chance';
import type { Column, ColumnType } from '../columns/model';
import type { Condition, Part } from '../views/conditions';
import type { Asker, Question } from '../views/question';
import { answerFrom } from './answer';
import { Tally } from './tally';

let sqlite: Awaited<ReturnType<typeof initSqlJs>>;
beforeAll(async () => {
  sqlite = await initSqlJs();
});

const quoted = (value: unknown): string =>
  value === null || value === undefined
    ? 'null'
    : typeof value === 'number'
      ? String(value)
      : `'${String(value).replaceAll("'", "''")}'`;

/** Each paper a row, and each value of each column a row of `held`, in force or not. */
function filled(library: RandomLibrary): Database {
  const database = new sqlite.Database();
  database.run('create table paper (id primary key, scope, kind, pages, bytes, amount)');
  database.run('create table held (paper, of, value); create index held_by on held (paper, of, value)');
  const homes = new Map(library.places.map((place) => [place.id, place]));
  const amount = library.world.columns.find((column) => column.type === 'amount');
  for (const paper of library.papers.values()) {
    const home = homes.get(paper.homeId);
    database.run(
      `insert into paper values (${[paper.id, home?.scopeId ?? null, paper.kind, paper.pageCount, paper.sizeBytes, amount && home?.lineage.includes(amount.placeId) ? paper.values[amount.id] : null].map(quoted).join()})`,
    );
    for (const column of library.world.columns) {
      const value = paper.values[column.id];
      if (value === undefined || !home?.lineage.includes(column.placeId)) continue;
      for (const each of Array.isArray(value) ? (value as string[]) : [value])
        database.run(`insert into held values (${[paper.id, column.id, each].map(quoted).join()})`);
    }
    for (const label of paper.labels)
      database.run(`insert into held values (${quoted(paper.id)}, 'label', ${quoted(label)})`);
  }
  return database;
}

function rows(database: Database, sql: string): (number | string | null)[][] {
  const [result] = database.exec(sql);
  return (result?.values ?? []) as (number | string | null)[][];
}

const heldBy = (of: string, more: string): string =>
  `exists (select 1 from held where held.paper = paper.id and held.of = ${quoted(of)} and ${more})`;

function asSql(part: Part): string {
  if ('how' in part) {
    const parts = part.parts.map(asSql);
    if (parts.length === 0) return '1';
    if (part.how === 'all') return `(${parts.join(' and ')})`;
    return `${part.how === 'none' ? 'not ' : ''}(${parts.join(' or ')})`;
  }
  const { of } = part;
  if ('from' in part) return `coalesce(pages between ${part.from ?? -1e9} and ${part.to ?? 1e9}, 0)`;
  if ('span' in part && 'from' in part.span)
    return heldBy(of, `value >= ${quoted(part.span.from ?? '0000')} and value <= ${quoted(part.span.to ?? '9999')}`);
  if ('filled' in part) return `${part.filled ? '' : 'not '}${heldBy(of, '1')}`;
  if (!('anyOf' in part)) throw new Error('Not asked here');
  const list = part.anyOf
    .filter((each) => each !== null)
    .map(quoted)
    .join();
  if (of === 'kind') return `kind in (${list})`;
  return `(${heldBy(of, `value in (${list})`)}${part.anyOf.includes(null) ? ` or not ${heldBy(of, '1')}` : ''})`;
}

/** A question whose every part SQL above can put. */
function question(library: RandomLibrary, chance: Chance): Question {
  const of = (type: ColumnType): Column => library.world.columns.find((column) => column.type === type) as Column;
  const some = <T>(all: readonly T[]): T[] => chance.some(all, chance.whole(1, 3));
  const day = () => new Date((20_000 + chance.whole(0, 900)) * 86_400_000).toISOString().slice(0, 10);
  const one = (): Condition =>
    chance.pick<() => Condition>([
      () => ({ of: 'kind', anyOf: some(['PDF', 'DOC', 'SCAN']) }),
      () => ({ of: of('choice').id, anyOf: [...some(library.terms), ...(chance.happens(0.3) ? [null] : [])] }),
      () => ({ of: of('choices').id, anyOf: [...some(library.terms), ...(chance.happens(0.3) ? [null] : [])] }),
      () => ({ of: 'label', anyOf: [...some(library.labels), ...(chance.happens(0.3) ? [null] : [])] }),
      () => ({ of: 'pages', from: chance.whole(0, 30), to: chance.happens(0.5) ? chance.whole(20, 60) : null }),
      () => ({ of: of('date').id, span: { from: day(), to: chance.happens(0.5) ? day() : null } }),
      () => ({ of: of('date').id, filled: chance.happens(0.5) }),
    ])();
  const block = (): Part => ({ how: chance.pick(['all', 'any', 'none'] as const), parts: [one(), one()] });
  const conditions = Array.from({ length: chance.whole(0, 3) }, () => (chance.happens(0.3) ? block() : one()));
  return {
    placeId: library.places[0]?.id ?? '',
    below: true,
    conditions,
    groupings: [
      {
        of: chance.pick(['kind', of('choice').id, of('choices').id, 'label']),
        by: 'value',
        order: 'own',
        direction: 'up',
      },
    ],
    sorts: [],
    counts: ['kind', of('choices').id],
    measures: [of('amount').id],
    start: 0,
    limit: 0,
  };
}

it('agrees with SQLite on totals, groups and counts, for 500 random views of 10 libraries', () => {
  let papers = 0;
  for (let seed = 501; seed <= 510; seed += 1) {
    const chance = new Chance(seed);
    const library = new RandomLibrary(seed, 60);
    const tally = new Tally(library.world);
    tally.putPlaces(library.places);
    // Who sees what is not the question here: every paper simply lies in its home.
    for (const paper of library.papers.values()) library.papers.set(paper.id, { ...paper, scopeId: null, filings: [] });
    tally.putPapers(library.papers.values());
    const database = filled(library);
    for (let round = 0; round < 50; round += 1) {
      const asked = question(library, chance);
      const asker: Asker = { ...library.asker(asked), labels: new Set(library.labels) };
      const answer = answerFrom(tally, asked, asker);
      if (!answer.ok) throw new Error(answer.issue.says);
      const sees = asker.keeper ? '1' : `scope in (${[...asker.scopes].map(quoted).join()})`;
      const where = (parts: readonly Part[]) => [sees, ...parts.map(asSql)].join(' and ');
      const sums = `count(*), coalesce(sum(pages), 0), coalesce(sum(bytes), 0), coalesce(round(sum(amount), 4), 0)`;
      const [total] = rows(database, `select ${sums} from paper where ${where(asked.conditions)}`);
      const { totals } = answer.value;
      expect([totals.papers, totals.pages, totals.bytes, totals.measures[0]?.sum]).toEqual(total);
      papers += totals.papers;

      const by = asked.groupings[0]?.of ?? '';
      const values = (of: string) =>
        of === 'kind'
          ? 'select id as paper, kind as value from paper'
          : `select paper.id as paper, held.value from paper left join held on held.paper = paper.id and held.of = ${quoted(of)}`;
      const groups = rows(
        database,
        `select grouped.value, ${sums} from (${values(by)}) as grouped join paper on paper.id = grouped.paper
         where ${where(asked.conditions)} group by 1`,
      );
      const told = answer.value.groups.map((group) => [
        group.key,
        group.totals.papers,
        group.totals.pages,
        group.totals.bytes,
        group.totals.measures[0]?.sum,
      ]);
      expect(sorted(told)).toEqual(sorted(groups));

      for (const of of asked.counts) {
        const others = asked.conditions.filter((part) => !speaksOf(part, of));
        const counted = rows(
          database,
          `select counted.value, count(*) from (${values(of)}) as counted join paper on paper.id = counted.paper
           where ${where(others)} group by 1`,
        );
        const counts = answer.value.counts[of];
        expect(sorted(counts?.kind === 'values' ? counts.values.map((each) => [each.value, each.papers]) : [])).toEqual(
          sorted(counted),
        );
      }
    }
    database.close();
  }
  expect(papers).toBeGreaterThan(2500);
});

const sorted = (all: readonly (readonly unknown[])[]): readonly unknown[][] =>
  all.map((each) => [...each]).sort((a, b) => (String(a[0]) < String(b[0]) ? -1 : 1));

const speaksOf = (part: Part, of: string): boolean =>
  'how' in part ? part.parts.length > 0 && part.parts.every((each) => speaksOf(each, of)) : part.of === of;
