declare module 'stopword' {
  /** Stop words by language (ISO 639-3). The package has no types of its own. */
  const dan: readonly string[];
  const deu: readonly string[];
  const eng: readonly string[];
  const fin: readonly string[];
  const fra: readonly string[];
  const ita: readonly string[];
  const nld: readonly string[];
  const nob: readonly string[];
  const pol: readonly string[];
  const por: readonly string[];
  const spa: readonly string[];
  const swe: readonly string[];
  export { dan, deu, eng, fin, fra, ita, nld, nob, pol, por, spa, swe };
}
