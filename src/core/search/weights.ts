/**
 * What counts for how much when papers are put in order, each with its reason. The first three were found by trying on
 * published pages and what people called them (docs/performance.md has the figures); the others are held by judged
 * questions (`tally/judged.test.ts`).
 */
export const weights = {
  /** BM25's k1: how fast a further time a word stands in a text counts less. */
  saturation: 1.6,
  /** BM25's b: how much a long text counts against its hits. Papers are long for good reasons, so little. */
  length: 0.2,
  /** A title says what the whole paper is about, in a few words that someone chose. */
  title: 5,
  /** A file's name is a title that nobody may have chosen. */
  fileName: 2,
  /** A value, a label or a remark was given to this paper by a person, and says one thing of it. */
  value: 3,
  /** Whom a mail is from or to is how mails are remembered. */
  correspondent: 3,
  /** A place's name is true of all that lies in it: enough to find a paper, not to put it before others. */
  place: 0.4,
  /** A word that only begins as was typed may be another. */
  begun: 0.7,
  /** Digits within a longer number may be chance; they are found, after those that are the number. */
  part: 0.4,
  /** An earlier version was replaced for a reason. */
  older: 0.2,
  /** How much of a title the question covers: two words of two say more than two of nine. */
  share: 1,
  /** Words side by side are mostly meant together. */
  nearness: 2,
  /** A paper changed today counts so much more than one of long ago, and falls off by half each year. */
  recent: 0.06,
  /** A paper in a place where the person has been lately counts so much more. */
  frequented: 0.06,
} as const;

/** So many of the best are put in order again by how near the words stand and how much of the title they are. */
export const mostReordered = 200;

/** How much a word says that is in so many of the papers (BM25's inverse document frequency; Robertson, Zaragoza, 2009). */
export const idf = (papers: number, within: number): number =>
  Math.log(1 + (Math.max(0, papers - within) + 0.5) / (within + 0.5));

/** How much a count comes to beside others (BM25: Robertson, Zaragoza: "The Probabilistic Relevance Framework", 2009). */
export const saturated = (count: number): number => (count * (weights.saturation + 1)) / (count + weights.saturation);

/** A count in a text of so many words as one in a text of mean length. */
export const inMeanText = (count: number, length: number, meanLength: number): number =>
  count / (1 - weights.length + (weights.length * length) / Math.max(1, meanLength));
