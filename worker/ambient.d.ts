declare module 'stopword' {
  /** Stop words of a language (ISO 639-3). The package has no types of its own. */
  type Words = readonly string[];
  const lists: Readonly<
    Record<'eng' | 'deu' | 'fra' | 'spa' | 'ita' | 'nld' | 'por' | 'swe' | 'dan' | 'nob' | 'fin' | 'pol', Words>
  >;
  export = lists;
}
