import { wordsIn } from '../text/words';
import { searchKey } from '../text/fold';

const { imul } = Math;

/** How many words in a row are compared at a time: fewer are shared by texts that have nothing to do with each other. */
const run = 4;
/** A text with fewer words is compared whole, or not at all. */
export const fewestWords = 24;
/** Numbers in a sketch. An estimate from so many is off by 0.04 on average at most: sqrt(s (1 - s) / 128). */
export const sketchSize = 128;
/** A sketch is looked up by bands of four numbers: two texts that are alike to 0.6 share one in 99 of 100 cases. */
const perBand = 4;

/** How alike two texts must be to be said to be. */
export const muchAlike = 0.6;

/** The words of a text as they are compared: without case, accents and punctuation. */
export const comparableWords = (text: string): string[] => Array.from(wordsIn(text), searchKey).filter(Boolean);

/**
 * A sketch of a text by MinHash: for each of 128 hash functions the least value over all runs of four words (Broder, "On the
 * resemblance and containment of documents", 1997). Two texts have equal numbers at a place with the probability that is
 * the share of runs which they have in common (Jaccard). Null for a text that is too short.
 * @param words from `comparableWords`
 */
export function sketchOf(words: readonly string[]): number[] | null {
  if (words.length < fewestWords) return null;
  const least = new Int32Array(sketchSize).fill(0x7fffffff);
  const hashes = words.map(hashOf);
  for (let at = 0; at + run <= hashes.length; at += 1) {
    let hash = 0;
    for (let next = at; next < at + run; next += 1) hash = mixed(imul(hash, 31) + (hashes[next] ?? 0));
    for (let place = 0; place < sketchSize; place += 1) {
      const value = mixed(hash ^ (seeds[place] ?? 0));
      if (value < (least[place] ?? 0)) least[place] = value;
    }
  }
  return [...least];
}

/** How alike two texts are, from 0 to 1, as their sketches estimate it. */
export function likenessOf(one: readonly number[], other: readonly number[]): number {
  let equal = 0;
  for (let place = 0; place < sketchSize; place += 1) if (one[place] === other[place]) equal += 1;
  return equal / sketchSize;
}

/**
 * The keys by which a sketch is found: one a band, of 32. (Leskovec, Rajaraman, Ullman, "Mining of Massive Datasets",
 * section 3.4: with b bands of r numbers, a pair that is alike to s shares a band with probability 1 - (1 - s^r)^b.)
 */
export function bandsOf(sketch: readonly number[]): number[] {
  const keys: number[] = [];
  for (let at = 0; at < sketchSize; at += perBand) {
    let key = at + 1;
    for (let place = at; place < at + perBand; place += 1) key = mixed(imul(key, 31) + (sketch[place] ?? 0));
    keys.push(key);
  }
  return keys;
}

/** FNV-1a over UTF-16 units, 32 bits. (Fowler, Noll, Vo; the constants are from memory.) */
function hashOf(word: string): number {
  let hash = 0x811c9dc5;
  for (let at = 0; at < word.length; at += 1) hash = imul(hash ^ word.charCodeAt(at), 0x01000193);
  return hash | 0;
}

/** Mixes 32 bits so that each depends on all (the last step of MurmurHash3, Appleby; the constants are from memory). */
function mixed(number: number): number {
  let hash = number;
  hash = imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return hash ^ (hash >>> 16);
}

const seeds = Int32Array.from({ length: sketchSize }, (_none, at) => mixed(imul(at + 1, 0x9e3779b1)));
