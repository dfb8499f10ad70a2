/** Lists of stop words by language (ISO 639-3). The package has no types of its own. */
declare module 'stopword' {
  export const eng: readonly string[];
  export const deu: readonly string[];
  export const fra: readonly string[];
  export const spa: readonly string[];
  export const ita: readonly string[];
  export const nld: readonly string[];
  export const por: readonly string[];
  export const swe: readonly string[];
  export const dan: readonly string[];
  export const nob: readonly string[];
  export const fin: readonly string[];
  export const pol: readonly string[];
}
