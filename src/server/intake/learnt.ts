import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { grouped } from '@/core/collections/grouped';
import { firstByWords, spread, tellingWords, type LearntWord } from '@/core/intake/learnt';
import { tokensIn } from '@/core/search/analyse';
import { termLanguages } from '@/core/search/languages';
import { readPostings } from '@/core/search/postings';
import { wordsIn } from '@/core/text/words';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { document, place, searchPost, searchSegment, searchText, version } from '../db/schema';

/** So much of an arrival is looked at. In characters. */
const mostText = 20_000;
/** So many of its words are looked up, and of them the rarest so many are counted. */
const mostLooked = 600;
const mostCounted = 60;
/** A word that stands in more texts says little of any dossier, and takes long to look up. */
const mostTexts = 5000;
/** So many texts of each word are looked up: more hardly say more (docs/performance.md). */
const mostOfWord = 20;
/** In an index of many segments, words are looked for in so many of them first. */
const mostSegments = 24;
const someSegments = 12;
const nothing = new Uint8Array();

/**
 * The dossier whose papers an arrival is most like by its words, with these and how many of its papers are known to have any of them.
 * Nothing is stored for it: words are counted in the index of words, and so are those of what was filed, moved or destroyed a moment ago.
 * @param own what the arrival itself has: it is not like itself
 */
export async function likePapers(
  text: string,
  own: readonly string[],
): Promise<{ readonly dossierId: string; readonly about: string; readonly times: number } | null> {
  const words = await wordsOf(text);
  if (words.length === 0) return null;
  const itself = await numbersOf(own);
  const texts = new Map<string, { readonly numbers: readonly number[]; readonly every: number }>();
  for (const [word, its] of grouped(words, (each) => each.word)) {
    const having = [...new Set(its.flatMap(({ numbers }) => numbers))].filter((number) => !itself.has(number));
    const all = its.reduce((sum, each) => sum + each.texts, 0);
    const numbers = spread(having, mostOfWord);
    // Where all were read, those that other languages have too are counted once.
    const of = its.some(({ isSampled }) => isSampled) ? Math.max(all, having.length) : having.length;
    texts.set(word, { numbers, every: numbers.length === 0 ? 1 : of / numbers.length });
  }
  const homes = await homesOf([...new Set([...texts.values()].flatMap(({ numbers }) => numbers))]);
  const learnt = [...texts].flatMap(([word, { numbers, every }]): LearntWord[] => {
    const papers = new Map<string, number>();
    for (const number of numbers) {
      const dossierId = homes.get(number);
      if (dossierId !== undefined) papers.set(dossierId, (papers.get(dossierId) ?? 0) + 1);
    }
    return papers.size === 0 ? [] : [{ word, papers, texts: numbers.length, every }];
  });
  const dossierId = firstByWords(learnt);
  if (dossierId === null) return null;
  const telling = tellingWords(learnt, dossierId, await shareOf(dossierId));
  if (telling.length === 0) return null;
  const theirs = telling.flatMap((word) => texts.get(word)?.numbers ?? []);
  const papers = new Set(theirs.filter((number) => homes.get(number) === dossierId));
  return { dossierId, about: telling.join(', '), times: papers.size };
}

async function numbersOf(contents: readonly string[]): Promise<ReadonlySet<number>> {
  const rows = await db()
    .select({ number: searchText.number })
    .from(searchText)
    .where(inArray(searchText.sha256, [...contents]));
  return new Set(rows.map(({ number }) => number));
}

/** More papers of one dossier are not counted. */
const mostOfDossier = 10_000;

/** How much of all texts that are indexed a dossier’s papers are, above 0 and at most 1. */
async function shareOf(dossierId: string): Promise<number> {
  const { rows } = await db().execute<{ own: number; all: number }>(sql`
    select (select count(*)::int from (
        select from ${document} join ${place} on ${place.id} = ${document.homeId}
        where ${place.lineage} @> array[${dossierId}::uuid] and ${document.disposedAt} is null limit ${mostOfDossier}) as own) as own,
      (select coalesce(sum(${searchSegment.texts}), 0)::int from ${searchSegment}) as all`);
  const { own = 1, all = 1 } = rows[0] ?? {};
  return Math.min(1, Math.max(1, own) / Math.max(1, all));
}

/** A new language is known after so long at most. */
const languagesEveryMs = 5 * 60 * 1000;
let known: { readonly languages: readonly string[]; readonly at: number } | null = null;

/** The languages in which texts are indexed. Asked of all texts, and so not for each arrival. */
async function languagesInUse(): Promise<readonly string[]> {
  if (known === null || known.languages.length === 0 || Date.now() - known.at > languagesEveryMs) {
    const rows = await db().selectDistinct({ language: searchText.language }).from(searchText);
    known = { languages: rows.map(({ language }) => language), at: Date.now() };
  }
  return known.languages;
}

/** The segments of the index in which words are looked for first, and what part of all texts they have. */
async function firstSegments(): Promise<{ readonly ids: readonly number[]; readonly part: number }> {
  const all = await db().select().from(searchSegment).orderBy(asc(searchSegment.segment));
  const some = all.length <= mostSegments ? all : spread(all, someSegments);
  const sum = (segments: typeof all) => segments.reduce((before, { texts }) => before + texts, 0);
  return { ids: some.map(({ segment }) => segment), part: sum(some) / Math.max(1, sum(all)) };
}

/** A word of an arrival as the index has it in one language. */
interface IndexedWord {
  readonly word: string;
  /** In how many texts it stands, about; and their numbers, or those of some. */
  readonly texts: number;
  readonly numbers: readonly number[];
  readonly isSampled: boolean;
}

/**
 * The rarest words of a text that other texts have too. Short texts do not say surely in which language they are, so a word is looked for
 * as each language in which texts are indexed has it, and as it is.
 */
async function wordsOf(text: string): Promise<readonly IndexedWord[]> {
  const languages = await languagesInUse();
  const standing = new Map<string, string>();
  const seen = new Set<string>();
  for (const word of wordsIn(text.slice(0, mostText))) {
    const said = word.toLowerCase();
    if (seen.size >= mostLooked) break;
    // Addresses and numbers speak for themselves.
    if (seen.has(said) || !/^[\p{L}\p{M}’'-]{3,}$/u.test(said)) continue;
    seen.add(said);
    for (const language of termLanguages(languages))
      for (const { term } of tokensIn(word, language)) if (!standing.has(term)) standing.set(term, said);
  }
  if (standing.size === 0) return [];
  const { ids, part } = await firstSegments();
  const first = sql`${sql.param([...ids])}::int[]`;
  // What some segments have often enough is not counted in the others.
  const { rows } = await db().execute<{ term: string; texts: number; sampled: boolean }>(sql`
    select term, whole.texts::float8 as texts, whole.sampled from unnest(${sql.param([...standing.keys()])}::text[]) as given (term)
    cross join lateral (select coalesce(sum(texts), 0) as texts from ${searchPost}
      where term = given.term collate "C" and segment = any(${first})) as few
    cross join lateral (select few.texts >= ${mostOfWord} and ${part < 1}::boolean as sampled, case
      when few.texts >= ${mostOfWord} then few.texts / ${part}::float8
      else (select sum(texts) from ${searchPost} where term = given.term collate "C") end as texts) as whole
    where whole.texts between 2 and ${mostTexts}
    order by whole.texts, term collate "C" limit ${mostCounted}`);
  if (rows.length === 0) return [];
  const termsOf = (sampled: boolean) =>
    sql.param(rows.flatMap((each) => (each.sampled === sampled ? [each.term] : [])));
  const { rows: postings } = await db().execute<{ term: string; docs: Buffer }>(sql`
    select term, docs from ${searchPost} where term = any(${termsOf(false)}::text[])
    union all select term, docs from ${searchPost} where term = any(${termsOf(true)}::text[]) and segment = any(${first})`);
  const found = grouped(postings, ({ term }) => term);
  return rows.map(({ term, texts, sampled }) => ({
    word: standing.get(term) ?? term,
    texts,
    numbers: (found.get(term) ?? []).flatMap(({ docs }) => [...readPostings(docs, nothing).numbers]),
    isSampled: sampled,
  }));
}

/**
 * The dossiers in which papers have their home that are these texts now, by the text’s number. Of papers that are not open just as their
 * dossier is, none is told: who sees the dossier would learn of their words.
 */
async function homesOf(numbers: readonly number[]): Promise<ReadonlyMap<number, string>> {
  if (numbers.length === 0) return new Map();
  // By the paper of a version, which has an index.
  const rows = await db()
    .selectDistinct({ number: searchText.number, homeId: document.homeId })
    .from(searchText)
    .innerJoin(version, eq(version.sha256, searchText.sha256))
    .innerJoin(document, and(eq(document.id, version.documentId), eq(document.versionId, version.id)))
    .where(
      and(
        sql`${searchText.number} = any(${sql.param([...numbers])}::int[])`,
        isNull(document.disposedAt),
        isNull(document.scopeId),
      ),
    );
  // In steps: in one, the planner takes so few rows for granted that it goes through all places for each.
  const homes = await placesAt(rows.map(({ homeId }) => homeId));
  const above = await placesAt([...homes.values()].flatMap(({ lineage }) => lineage));
  const dossierOf = new Map(
    [...homes.values()].map(({ id, lineage, scopeId }) => [
      id,
      lineage.find((each) => above.get(each)?.kind === 'dossier' && above.get(each)?.scopeId === scopeId),
    ]),
  );
  return new Map(
    rows.flatMap(({ number, homeId }) => {
      const dossierId = dossierOf.get(homeId);
      return dossierId === undefined ? [] : [[number, dossierId] as const];
    }),
  );
}

async function placesAt(ids: readonly string[]) {
  const rows = await db()
    .select({ id: place.id, kind: place.kind, lineage: place.lineage, scopeId: place.scopeId })
    .from(place)
    .where(idIn(place.id, [...new Set(ids)]));
  return new Map(rows.map((each) => [each.id, each]));
}
