import { and, arrayContains, eq, inArray, isNull, sql, type SQL } from 'drizzle-orm';
import { resultsAtATime, type FoundPaper } from '@/core/search/contract';
import { evaluate, type TextIndex } from '@/core/search/evaluate';
import { marksIn } from '@/core/search/marks';
import { readQuestion, type SearchQuestion } from '@/core/search/question';
import { searchKey } from '@/core/text/fold';
import { namesOn, pathsOf } from '../known/names';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { attachment, document, place, searchText, version } from '../db/schema';
import type { Actor } from '../gate/actor';
import { homeIsTold, paperAllows } from '../gate/visible';
import { standName, standsIn } from '../known/standing';
import { passageIn } from './passage';
import { indexFor } from './textIndex';

/** How many of the best texts go through the gate at a time, until there are enough results. */
const atATime = 500;
/** Titles that are looked at. */
const mostTitles = 300;
/** What a paper gets for the share of the question that its title has; and for a title that has all of it. */
const titleWeight = { share: 5, whole: 3 } as const;

/**
 * Papers by what stands in them and by their titles, the best first. Texts are evaluated without regard to who asks; what is
 * told has passed the gate, and of the rest nothing is: neither how many there are nor that there are any.
 */
export const searchPapers = asks('search.papers', async (actor, { words, placeId, skip }) => {
  const question = readQuestion(words);
  const within = placeId === null ? sql`true` : standsIn(actor, arrayContains(place.lineage, [placeId]));
  const wanted = skip + resultsAtATime + 1;
  const index = await indexFor(question);
  const [inside, titled] = await Promise.all([
    insideFor(actor, question, index, within, wanted),
    titledFor(actor, question, index, within),
  ]);
  const byId = new Map<string, Candidate>();
  for (const each of [...titled, ...inside]) {
    // One paper once, by what in it answers best.
    if ((byId.get(each.id)?.score ?? -1) < each.score) byId.set(each.id, each);
  }
  const ranked = [...byId.values()]
    .map((each) => ({ ...each, score: each.score + titleScore(each.title, question) }))
    .sort((one, other) => other.score - one.score || (one.filedAt > other.filedAt ? -1 : 1));
  const shown = ranked.slice(skip, skip + resultsAtATime);
  return {
    papers: await told(actor, shown, question, index, words),
    more: ranked.length > skip + resultsAtATime,
    leftOut: question.leftOut,
  };
});

interface Candidate {
  readonly id: string;
  readonly title: string;
  readonly stamp: FoundPaper['stamp'];
  readonly filedAt: Date;
  readonly lineage: readonly string[];
  readonly stand: string;
  readonly told: boolean;
  /** The content in which the words stand; null where only the title has them. */
  readonly sha256: string | null;
  /** The name of the attachment whose content that is; null for the paper's own. */
  readonly attachment: string | null;
  readonly score: number;
}

const candidateColumns = (actor: Actor) => ({
  id: document.id,
  title: document.title,
  stamp: document.stamp,
  filedAt: document.filedAt,
  lineage: place.lineage,
  stand: standName(actor),
  told: sql<boolean>`${homeIsTold(actor)}`,
});

/** How well a title answers: by the share of the question's words that stand in it. */
function titleScore(title: string, { all }: SearchQuestion): number {
  const key = ` ${searchKey(title)} `;
  const words = all.flatMap((wanted) => wanted.words.map(searchKey)).filter(Boolean);
  if (words.length === 0) return 0;
  const there = words.filter((word) => key.includes(` ${word}`)).length;
  return titleWeight.share * (there / words.length) + (there === words.length ? titleWeight.whole : 0);
}

/** The best papers by what stands in them, as many as are wanted. */
async function insideFor(
  actor: Actor,
  question: SearchQuestion,
  index: TextIndex,
  within: SQL,
  wanted: number,
): Promise<Candidate[]> {
  const { numbers, scores } = evaluate(question, index);
  const best = [...numbers.keys()].sort((one, other) => (scores[other] ?? 0) - (scores[one] ?? 0));
  const found: Candidate[] = [];
  for (let at = 0; at < best.length && found.length < wanted; at += atATime) {
    const some = new Map(best.slice(at, at + atATime).map((which) => [numbers[which] ?? 0, scores[which] ?? 0]));
    const shown = and(
      inArray(searchText.number, [...some.keys()]),
      isNull(document.disposedAt),
      paperAllows(actor, 'see'),
      within,
    );
    const columns = { ...candidateColumns(actor), sha256: searchText.sha256, number: searchText.number };
    const [own, attached] = await Promise.all([
      db()
        .select(columns)
        .from(searchText)
        .innerJoin(version, eq(version.sha256, searchText.sha256))
        .innerJoin(document, eq(document.versionId, version.id))
        .innerJoin(place, eq(place.id, document.homeId))
        .where(shown),
      db()
        .select({ ...columns, attachment: attachment.name })
        .from(searchText)
        .innerJoin(attachment, eq(attachment.sha256, searchText.sha256))
        .innerJoin(version, eq(version.sha256, attachment.mailSha256))
        .innerJoin(document, eq(document.versionId, version.id))
        .innerJoin(place, eq(place.id, document.homeId))
        .where(shown),
    ]);
    for (const { number, ...row } of [...own.map((each) => ({ ...each, attachment: null })), ...attached])
      found.push({ ...row, score: some.get(number) ?? 0 });
  }
  return found;
}

/** Papers whose titles have every word of the question. */
async function titledFor(
  actor: Actor,
  { all, none }: SearchQuestion,
  index: TextIndex,
  within: SQL,
): Promise<Candidate[]> {
  const has = (words: readonly string[]) =>
    sql`${document.searchKey} like ${`%${escapeLike(searchKey(words.join(' ')))}%`}`;
  if (all.length === 0) return [];
  const out = new Set(none.flatMap((each) => [...evaluate({ all: [each], none: [], leftOut: 0 }, index).numbers]));
  const rows = await db()
    .select({ ...candidateColumns(actor), number: searchText.number })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .innerJoin(version, eq(version.id, document.versionId))
    .leftJoin(searchText, eq(searchText.sha256, version.sha256))
    .where(
      and(
        ...all.map(({ words }) => has(words)),
        ...none.map(({ words }) => sql`not ${has(words)}`),
        isNull(document.disposedAt),
        paperAllows(actor, 'see'),
        within,
      ),
    )
    .orderBy(sql`${document.filedAt} desc`)
    .limit(mostTitles);
  return rows
    .filter(({ number }) => number === null || !out.has(number))
    .map(({ number: _number, ...row }) => ({ ...row, sha256: null, attachment: null, score: 0 }));
}

/** Results as they are told: each with its path and the passage that answers best. */
async function told(
  actor: Actor,
  candidates: readonly Candidate[],
  question: SearchQuestion,
  index: TextIndex,
  words: string,
): Promise<FoundPaper[]> {
  const paths = await pathsOf(
    db(),
    actor,
    candidates.map((each) => (each.told ? each.lineage : [])),
  );
  const passages = await Promise.all(
    candidates.map(({ sha256, attachment: name }) =>
      sha256 === null ? null : passageIn(sha256, name, question, index),
    ),
  );
  return candidates.map((each, at) => ({
    documentId: each.id,
    title: each.title,
    titleMarks: marksIn(each.title, words),
    stamp: each.stamp,
    path: each.told ? namesOn(paths[at]) : [each.stand],
    filedAt: each.filedAt.toISOString(),
    inside: passages[at] ?? null,
  }));
}
