/** A word that an arrival has, and the papers filed that have it too. */
export interface LearntWord {
  readonly word: string;
  /** In how many papers of each dossier it stands, of those texts that were looked up. */
  readonly papers: ReadonlyMap<string, number>;
  /** In how many texts it stands that were looked up, also of what is filed in no dossier, or waits. */
  readonly texts: number;
  /** Of how many texts each of these is one; left out: all were looked up. */
  readonly every?: number;
}

/** Some of many, evenly spread over them; all of few. */
export function spread<T>(all: readonly T[], most: number): T[] {
  const step = Math.max(1, all.length / most);
  return Array.from({ length: Math.min(all.length, most) }, (_none, at) => all[Math.floor(at * step)] as T);
}

/** Added to each count, so that a word that was never seen does not settle everything (Laplace). */
const smoothing = 1;

/**
 * How well papers of each dossier fit an arrival: complement naive Bayes (J. Rennie, L. Shih, J. Teevan, D. Karger: "Tackling the Poor
 * Assumptions of Naive Bayes Text Classifiers", ICML 2003, section 3.1, without the normalisation of its section 3.2), with each
 * word of a paper counted once. A dossier is scored by how seldom its words are in all others, so that large ones do not win by their size.
 * @param words those that are looked at, each with whether the arrival has it
 */
export function complementScores(
  words: readonly LearntWord[],
  has: (word: string) => boolean = () => true,
): ReadonlyMap<string, number> {
  const counts = words.map(
    ({ papers, every = 1 }) => new Map([...papers].map(([dossierId, count]) => [dossierId, count * every])),
  );
  const all = counts.map((papers) => [...papers.values()].reduce((sum, count) => sum + count, 0));
  const total = all.reduce((sum, count) => sum + count, 0) + smoothing * words.length;
  const own = new Map<string, number>();
  for (const papers of counts)
    for (const [dossierId, count] of papers) own.set(dossierId, (own.get(dossierId) ?? 0) + count);
  const its = counts.flatMap((papers, at) => (has(words[at]?.word ?? '') ? [{ papers, count: all[at] ?? 0 }] : []));
  return new Map(
    [...own].map(([dossierId, inAll]) => [
      dossierId,
      its.reduce(
        (sum, { papers, count }) =>
          sum - Math.log((count - (papers.get(dossierId) ?? 0) + smoothing) / (total - inAll)),
        0,
      ),
    ]),
  );
}

/** The first has to be so far before the next: two to one. */
const leastAhead = Math.log(2);

/** The dossier whose papers an arrival is most like by its words; null where none stands out. */
export function firstByWords(words: readonly LearntWord[]): string | null {
  const [first, second] = [...complementScores(words)].toSorted(
    ([one, its], [other, others]) => others - its || (one < other ? -1 : 1),
  );
  return first && (!second || first[1] - second[1] >= leastAhead) ? first[0] : null;
}

/** A word tells of a dossier that has it in so many papers, and in so much of all that have it. */
const fewestPapers = 2;
const leastShare = 0.5;
/** And if by chance alone it would hardly be so: one in a hundred. */
const leastUnlikely = Math.log(100);
/** So many words have to tell, so that no single one decides. */
const fewestWords = 2;
const mostShown = 3;

/**
 * The words that tell of a dossier, the most telling first; none where too few do. How unlikely each is by chance is the logarithm of its
 * likelihood ratio (T. Dunning: "Accurate Methods for the Statistics of Surprise and Coincidence", Computational Linguistics 19, 1993): in a
 * library with few papers every word stands in those of one dossier.
 * @param share of all texts that are the dossier’s, above 0
 */
export function tellingWords(words: readonly LearntWord[], dossierId: string, share: number): string[] {
  const telling = words
    .map(({ word, papers, texts: everywhere }) => {
      const here = papers.get(dossierId) ?? 0;
      const elsewhere = everywhere - here;
      const unlikely = here * logOf(here / everywhere, share) + elsewhere * logOf(elsewhere / everywhere, 1 - share);
      return { word, here, unlikely, part: here / everywhere };
    })
    .filter(
      ({ here, unlikely, part }) =>
        here >= fewestPapers && part >= leastShare && part > share && unlikely >= leastUnlikely,
    )
    .toSorted((one, other) => other.unlikely - one.unlikely || (one.word < other.word ? -1 : 1));
  return telling.length < fewestWords ? [] : telling.slice(0, mostShown).map(({ word }) => word);
}

const logOf = (part: number, of: number): number => (part === 0 ? 0 : Math.log(part / of));
