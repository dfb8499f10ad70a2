import { wordsOf } from './sentences';

/** A phrase of more words is rather a piece of a sentence. */
const mostWords = 3;
/** Fewest letters of a word that says something. */
const fewestLetters = 3;

/**
 * The key words of a text, the weightiest first: RAKE (S. Rose, D. Engel, N. Cramer, W. Cowley: "Automatic Keyword
 * Extraction from Individual Documents", in "Text Mining: Applications and Theory", 2010). Phrases lie between stop words
 * and punctuation; a word weighs its degree over its frequency, a phrase the sum of its words. Against the paper a phrase
 * must appear twice where the text is long enough for that, since a long rare phrase otherwise outweighs every topic.
 * @param stopWords in lower case
 */
export function keyWordsOf(text: string, stopWords: ReadonlySet<string>, count = 8): string[] {
  const phrases = phrasesOf(text, stopWords);
  const [degree, frequency] = [new Map<string, number>(), new Map<string, number>()];
  const uses = new Map<string, number>();
  for (const phrase of phrases) {
    uses.set(phrase.join(' '), (uses.get(phrase.join(' ')) ?? 0) + 1);
    for (const word of phrase) {
      degree.set(word, (degree.get(word) ?? 0) + phrase.length);
      frequency.set(word, (frequency.get(word) ?? 0) + 1);
    }
  }
  const weighed = [...uses].map(([phrase, times]) => ({
    phrase,
    times,
    weight: phrase
      .split(' ')
      .reduce((sum, word) => sum + (degree.get(word) ?? 0) / Math.max(1, frequency.get(word) ?? 1), 0),
  }));
  const repeated = weighed.filter(({ times }) => times > 1);
  return (repeated.length >= count ? repeated : weighed)
    .sort((one, other) => other.weight * other.times - one.weight * one.times || (one.phrase < other.phrase ? -1 : 1))
    .slice(0, count)
    .map(({ phrase }) => phrase);
}

function phrasesOf(text: string, stopWords: ReadonlySet<string>): string[][] {
  const phrases: string[][] = [];
  for (const part of text.split(/[^\p{L}\p{M}\p{N}\s'’-]+|\n[ \t]*\n/u)) {
    let phrase: string[] = [];
    const end = () => {
      if (phrase.length > 0 && phrase.length <= mostWords) phrases.push(phrase);
      phrase = [];
    };
    for (const word of wordsOf(part))
      if (stopWords.has(word) || word.length < fewestLetters || !/\p{L}/u.test(word)) end();
      else phrase.push(word);
    end();
  }
  return phrases;
}
