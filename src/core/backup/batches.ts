/** At most so many contents, and about so many bytes, are handled together. */
const [mostContents, mostBytes] = [200, 16 * 1_048_576];

/** Contents in their order, some at a time: one that is larger than all that goes together is alone. */
export function* batches<T extends { readonly sizeBytes: number }>(contents: readonly T[]): Generator<T[]> {
  let [some, bytes]: [T[], number] = [[], 0];
  for (const content of contents) {
    if (some.length > 0 && (some.length === mostContents || bytes + content.sizeBytes > mostBytes)) {
      yield some;
      [some, bytes] = [[], 0];
    }
    some.push(content);
    bytes += content.sizeBytes;
  }
  if (some.length > 0) yield some;
}
