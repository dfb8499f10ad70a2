/**
 * How well papers are found by what people call them: the index of a published manual (PostgreSQL's documentation, Debian's
 * `postgresql-doc`), made by people, has some three thousand terms with the pages they lead to. Each term is a question, its
 * pages are the answers. Beside it, over the same texts: PostgreSQL's own ranking, and BM25 as it stands in the textbook.
 * Prints success at 1 and 10 and the mean reciprocal rank (within the first hundred) of each, as JSON.
 */
import { owesNothing } from '@/core/owed/owing';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { Client } from 'pg';
import { tokensIn } from '@/core/search/analyse';
import { blockOf, readPostings, type Postings } from '@/core/search/postings';
import { TermList } from '@/core/search/termList';
import { answerFrom } from '@/core/tally/answer';
import { Tally } from '@/core/tally/tally';
import type { Asker, Question, ViewPaper } from '@/core/views/question';
import { manualFolder, manualPages, plain } from './manual';

const [, , connectionString] = process.argv;
if (connectionString === undefined) throw new Error('Say which database to compare with');
const pages = manualPages();
const numberOf = new Map(pages.map(({ name }, number) => [name, number]));

interface Known {
  readonly words: string;
  readonly pages: ReadonlySet<number>;
}

/** The terms of the index with the pages that they lead to; a term within another is asked with it. */
function knownItems(): Known[] {
  const markup = readFileSync(path.join(manualFolder(), 'bookindex.html'), 'utf8');
  const items: Known[] = [];
  const above: string[] = [];
  let depth = 0;
  for (const { 0: piece, groups } of markup.matchAll(/<dl>|<\/dl>|<dt[^>]*>(?<entry>[\s\S]*?)<\/dt>/gu)) {
    if (piece === '<dl>') depth += 1;
    else if (piece === '</dl>') depth -= 1;
    else {
      const entry = groups?.['entry'] ?? '';
      const term = plain(entry.split(/<a |,? \(see/u)[0] ?? '')
        .replace(/\s+/gu, ' ')
        .replace(/,\s*$/u, '')
        .trim();
      above.length = depth;
      above[depth - 1] = term;
      const lead = [...entry.matchAll(/class="indexterm" href="(?<page>[^"#]+)/gu)].flatMap(
        (link) => numberOf.get(link.groups?.['page'] ?? '') ?? [],
      );
      const words = above.slice(0, depth).join(' ');
      if (lead.length > 0 && /\p{L}/u.test(words)) items.push({ words, pages: new Set(lead) });
    }
  }
  return items;
}

const items = knownItems();
const day = 86_400_000;
const id = (number: number): string => `00000000-0000-4000-8000-${number.toString(16).padStart(12, '0')}`;
const rootId = '10000000-0000-4000-8000-000000000000';
const none = new Set<string>();

/** What our own finding puts first. */
function ours(): (words: string) => number[] {
  const places = new Map<string, { number: number; positions: number[] }[]>();
  const lengths = pages.map(({ title, text }, number) => {
    let length = 0;
    const positions = new Map<string, number[]>();
    for (const { term, position } of tokensIn(`${title}\n${text}`, 'en')) {
      positions.set(term, [...(positions.get(term) ?? []), position]);
      length = Math.max(length, position + 1);
    }
    for (const [term, all] of positions) {
      const entry = { number, positions: [...new Set(all)].sort((a, b) => a - b) };
      const entries = places.get(term);
      if (entries) entries.push(entry);
      else places.set(term, [entry]);
    }
    return length;
  });
  const tally = new Tally({
    columns: [],
    names: new Map(),
    otherNames: new Map(),
    termOrder: new Map(),
    timeZone: 'UTC',
    yearStartMonth: 1,
    owing: owesNothing,
  });
  tally.putPlaces([
    {
      id: rootId,
      lineage: [rootId],
      kind: 'library',
      name: '',
      reference: null,
      position: 0,
      scopeId: null,
      filingYear: null,
      plannedKey: null,
      closedAtMs: null,
    },
  ]);
  tally.putPapers(
    pages.map(({ title }, number): ViewPaper => ({
      id: id(number),
      homeId: rootId,
      scopeId: null,
      filings: [],
      title,
      kind: 'TEXT',
      sizeBytes: 1,
      pageCount: null,
      signature: null,
      wordCount: null,
      filedBy: rootId,
      filedAtMs: day,
      changedBy: rootId,
      changedAtMs: day,
      order: null,
      values: {},
      labels: [],
      fileName: '',
      remark: '',
      texts: [{ number, length: lengths[number] ?? 0, language: 'en', as: 'own' }],
    })),
  );
  const terms = new TermList();
  terms.add([...places].map(([term, entries]) => [term, entries.length] as const));
  const read = new Map<string, Postings>();
  tally.index = {
    terms,
    postings: (term) => {
      const entries = places.get(term);
      if (!entries) return null;
      const there = read.get(term);
      if (there) return there;
      const { docs, pos } = blockOf(entries);
      const postings = readPostings(docs, pos);
      read.set(term, postings);
      return postings;
    },
  };
  const asker: Asker = {
    personId: rootId,
    keeper: true,
    scopes: none,
    byOpening: none,
    managed: none,
    groupMates: none,
    labels: none,
    today: 2,
    lookedAtMs: null,
    openTo: new Map(),
    own: new Map(),
    found: new Map(),
    frequented: none,
  };
  return (words) => {
    const question: Question = {
      placeId: rootId,
      below: true,
      conditions: [{ of: 'find', find: words, among: 'everything' }],
      groupings: [],
      sorts: [],
      counts: [],
      measures: [],
      start: 0,
      limit: mostLooked,
    };
    const answer = answerFrom(tally, question, asker);
    if (!answer.ok) throw new Error(answer.issue.says);
    return answer.value.ids.map((each) => Number.parseInt(each.slice(-12), 16));
  };
}

/** BM25 as it stands in the textbook, k1 = 1.2 and b = 0.75, over title and text as one (Robertson, Zaragoza, 2009). */
function textbook(): (words: string) => number[] {
  const counts = pages.map(({ title, text }) => {
    const terms = new Map<string, number>();
    for (const { term } of tokensIn(`${title}\n${text}`, 'en')) terms.set(term, (terms.get(term) ?? 0) + 1);
    return terms;
  });
  const lengths = counts.map((terms) => [...terms.values()].reduce((sum, count) => sum + count, 0));
  const mean = lengths.reduce((sum, length) => sum + length, 0) / lengths.length;
  const within = new Map<string, number>();
  for (const terms of counts) for (const term of terms.keys()) within.set(term, (within.get(term) ?? 0) + 1);
  return (words) => {
    const wanted = [...new Set(Array.from(tokensIn(words, 'en'), ({ term }) => term))];
    const scores = counts.map((terms, number) =>
      wanted.reduce((sum, term) => {
        const often = terms.get(term) ?? 0;
        const n = within.get(term) ?? 0;
        const idf = Math.log(1 + (pages.length - n + 0.5) / (n + 0.5));
        return sum + (idf * often * 2.2) / (often + 1.2 * (0.25 + (0.75 * (lengths[number] ?? 0)) / mean));
      }, 0),
    );
    return [...scores.keys()]
      .filter((number) => (scores[number] ?? 0) > 0)
      .sort((a, b) => (scores[b] ?? 0) - (scores[a] ?? 0))
      .slice(0, mostLooked);
  };
}

/** PostgreSQL's own: `ts_rank` with the title weighted A, in the best of its ways to weigh length. */
async function postgres(normalization: number): Promise<(words: string) => Promise<number[]>> {
  const client = new Client({ connectionString });
  await client.connect();
  await client.query('create temporary table page (number int, words tsvector)');
  for (const [number, { title, text }] of pages.entries())
    await client.query(
      `insert into page values ($1, setweight(to_tsvector('english', $2), 'A') || to_tsvector('english', $3))`,
      [number, title, text],
    );
  await client.query('create index on page using gin (words)');
  clients.push(client);
  return async (words) => {
    const { rows } = await client.query<{ number: number }>(
      `select number from page, plainto_tsquery('english', $1) as asked where words @@ asked
       order by ts_rank(words, asked, ${normalization}) desc, number limit ${mostLooked}`,
      [words],
    );
    return rows.map(({ number }) => number);
  };
}
const clients: Client[] = [];
const mostLooked = 100;

async function measured(find: (words: string) => number[] | Promise<number[]>) {
  let [first, ten, reciprocal] = [0, 0, 0];
  const begun = performance.now();
  for (const { words, pages: answers } of items) {
    const rank = (await find(words)).findIndex((number) => answers.has(number));
    if (rank === 0) first += 1;
    if (rank !== -1 && rank < 10) ten += 1;
    if (rank !== -1) reciprocal += 1 / (rank + 1);
  }
  const share = (count: number) => Number((count / items.length).toFixed(4));
  return {
    success1: share(first),
    success10: share(ten),
    mrr: share(reciprocal),
    msEach: Number(((performance.now() - begun) / items.length).toFixed(2)),
  };
}

const result = {
  pages: pages.length,
  questions: items.length,
  ours: await measured(ours()),
  bm25: await measured(textbook()),
  tsRank: await measured(await postgres(0)),
  tsRankByLength: await measured(await postgres(1)),
};
for (const client of clients) await client.end();
process.stdout.write(`${JSON.stringify(result)}\n`);
