import fc from 'fast-check';
import { blockOf, readPostings, type Entry } from './postings';

const entries = fc
  .uniqueArray(fc.integer({ min: 0, max: 2_000_000_000 }), { minLength: 1, maxLength: 40 })
  .chain((numbers) =>
    fc.tuple(
      ...[...numbers]
        .sort((one, other) => one - other)
        .map((number) =>
          fc
            .uniqueArray(fc.integer({ min: 0, max: 5_000_000 }), { minLength: 1, maxLength: 20 })
            .map((positions): Entry => ({ number, positions: [...positions].sort((one, other) => one - other) })),
        ),
    ),
  );

const joined = (...parts: readonly Uint8Array[]): Uint8Array => Uint8Array.from(parts.flatMap((part) => [...part]));

/** Postings as the entries that they were made of. */
function asEntries(docs: Uint8Array, pos: Uint8Array): Entry[] {
  const { numbers, counts, positionsAt } = readPostings(docs, pos);
  return [...numbers].map((number, at) => {
    const positions = [...positionsAt(at)];
    expect(positions).toHaveLength(counts[at] ?? 0);
    return { number, positions };
  });
}

it('are read as they were written', () => {
  fc.assert(
    fc.property(entries, (all) => {
      const { docs, pos } = blockOf(all);
      expect(asEntries(docs, pos)).toEqual(all);
    }),
    { numRuns: 300, seed: 20261127 },
  );
});

it('of two segments are joined by putting one behind the other', () => {
  fc.assert(
    fc.property(entries, fc.nat(), (all, cut) => {
      const at = cut % (all.length + 1);
      const blocks = [all.slice(0, at), all.slice(at)].filter((part) => part.length > 0).map(blockOf);
      const docs = joined(...blocks.map((block) => block.docs));
      const pos = joined(...blocks.map((block) => block.pos));
      expect(asEntries(docs, pos)).toEqual(all);
    }),
    { numRuns: 200, seed: 20261127 },
  );
});

it('that are cut off are refused, and never read without end', () => {
  const { docs, pos } = blockOf([{ number: 7, positions: [1, 300, 70_000] }]);
  for (let length = 1; length < docs.length; length += 1)
    expect(() => readPostings(docs.subarray(0, length), pos)).toThrow(/Postings/u);
  for (let length = 1; length < pos.length; length += 1)
    expect(() => readPostings(docs, pos.subarray(0, length)).positionsAt(0)).toThrow(/Postings/u);
});
