import { sentencesOf, wordsOf } from './sentences';

/** How far a sentence passes its weight on; from the paper. */
const damping = 0.85;
const rounds = 30;
/** Only the beginning of a long text is weighed, since cost grows with the square of the sentences. */
const mostSentences = 200;

/**
 * A few of a text's own sentences that say most of it, in their order: TextRank (R. Mihalcea, P. Tarau: "TextRank:
 * Bringing Order into Texts", EMNLP 2004, section 4). Two sentences are as near as they share words, by the logarithms of
 * their lengths. Nothing is worded anew.
 * @param stopWords words that do not count, in lower case
 */
export function summaryOf(text: string, stopWords: ReadonlySet<string>, count = 3): string[] {
  const sentences = [...new Set(sentencesOf(text))].slice(0, mostSentences);
  if (sentences.length <= count) return sentences;
  const bags = sentences.map((sentence) => new Set(wordsOf(sentence).filter((word) => !stopWords.has(word))));
  const near = bags.map((one, row) => bags.map((other, column) => (row === column ? 0 : nearness(one, other))));
  const passedOn = near.map((line) => line.reduce((sum, each) => sum + each, 0));
  let weights = sentences.map(() => 1);
  for (let round = 0; round < rounds; round += 1)
    weights = sentences.map(
      (_sentence, at) =>
        1 -
        damping +
        damping *
          weights.reduce((sum, weight, from) => {
            const total = passedOn[from] ?? 0;
            return total === 0 ? sum : sum + (weight * (near[from]?.[at] ?? 0)) / total;
          }, 0),
    );
  return sentences
    .map((sentence, at) => ({ sentence, at, weight: weights[at] ?? 0 }))
    .sort((one, other) => other.weight - one.weight || one.at - other.at)
    .slice(0, count)
    .sort((one, other) => one.at - other.at)
    .map(({ sentence }) => sentence);
}

function nearness(one: ReadonlySet<string>, other: ReadonlySet<string>): number {
  let shared = 0;
  for (const word of one) if (other.has(word)) shared += 1;
  const lengths = Math.log(one.size) + Math.log(other.size);
  return shared === 0 || lengths <= 0 ? 0 : shared / lengths;
}
