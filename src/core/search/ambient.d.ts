/** Stemmers by Snowball's own algorithms. The package has no types of its own. */
declare module 'snowball-stemmers' {
  export function newStemmer(language: string): { stem(word: string): string };
}
