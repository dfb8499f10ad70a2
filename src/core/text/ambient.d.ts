/** Stop words of languages (ISO 639-3). The package has no types of its own. */
declare module 'stopword' {
  type Words = readonly string[];
  export const dan: Words, deu: Words, eng: Words, fin: Words, fra: Words, ita: Words;
  export const nld: Words, nob: Words, pol: Words, por: Words, spa: Words, swe: Words;
}
