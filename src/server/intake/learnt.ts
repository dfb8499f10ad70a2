import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { firstByWords, tellingWords, type LearntWord } from '@/core/intake/learnt';
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
/** A word that stands in more texts says little of any dossier. */
const mostTexts = 300;
const nothing = new Uint8Array();

/**
 * The dossier whose papers an arrival is most like by its words, with these and how many of its papers have any of them. Nothing is
 * stored for it: words are counted in the index of words, and so are those of what was filed, moved or destroyed a moment ago.
 * @param own what the arrival itself has: it is not like itself
 */
export async function likePapers(
  text: string,
  own: readonly string[],
): Promise<{ readonly dossierId: string; readonly about: string; readonly times: number } | null> {
  const words = await wordsOf(text);
  if (words.size === 0) return null;
  const postings = await db()
    .select({ term: searchPost.term, docs: searchPost.docs })
    .from(searchPost)
    .where(inArray(searchPost.term, [...words.keys()]));
  const itself = await numbersOf(own);
  const texts = new Map<string, Set<number>>();
  for (const { term, docs } of postings) {
    const word = words.get(term) ?? term;
    const having = texts.get(word) ?? new Set();
    for (const number of readPostings(docs, nothing).numbers) if (!itself.has(number)) having.add(number);
    texts.set(word, having);
  }
  const homes = await homesOf([...new Set([...texts.values()].flatMap((numbers) => [...numbers]))]);
  const learnt = [...texts].flatMap(([word, numbers]): LearntWord[] => {
    const papers = new Map<string, number>();
    for (const number of numbers) {
      const dossierId = homes.get(number);
      if (dossierId !== undefined) papers.set(dossierId, (papers.get(dossierId) ?? 0) + 1);
    }
    return papers.size === 0 ? [] : [{ word, papers, texts: numbers.size }];
  });
  const dossierId = firstByWords(learnt);
  if (dossierId === null) return null;
  const telling = tellingWords(learnt, dossierId, await shareOf(dossierId));
  if (telling.length === 0) return null;
  const theirs = telling.flatMap((word) => [...(texts.get(word) ?? [])]);
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

/**
 * The rarest words of a text that other texts have too: by their term, as they stand in it. Short texts do not say surely in which language
 * they are, so a word is looked for as each language in which texts are indexed has it, and as it is.
 */
async function wordsOf(text: string): Promise<ReadonlyMap<string, string>> {
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
  if (standing.size === 0) return standing;
  const terms = sql.param([...standing.keys()]);
  const { rows } = await db().execute<{ term: string }>(sql`
    select term from ${searchPost} where term = any(${terms}::text[])
    group by term having sum(texts) between 2 and ${mostTexts}
    order by sum(texts), term limit ${mostCounted}`);
  return new Map(rows.map(({ term }) => [term, standing.get(term) ?? term]));
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
