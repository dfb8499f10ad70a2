import fc from 'fast-check';
import {
  allCapabilities,
  bitOf,
  capabilities,
  closed,
  has,
  listOf,
  noCapabilities,
  setOf,
  type Capability,
} from './capability';
import { resolve, resolveStep, type Grant, type Grantee } from './resolve';

const some = fc.subarray([...capabilities]);

it('closes any set once and for all: sight with anything, everything with managing', () => {
  fc.assert(
    fc.property(some, (list) => {
      const set = setOf(list);
      expect(closed(set)).toBe(set);
      expect(has(set, 'see')).toBe(list.length > 0);
      if (list.includes('manage')) expect(set).toBe(allCapabilities);
      for (const each of list) expect(has(set, each)).toBe(true);
      expect(setOf(listOf(set))).toBe(set);
    }),
    { seed: 26 },
  );
});

it('has a bit of its own for each capability', () => {
  expect(new Set(capabilities.map(bitOf)).size).toBe(capabilities.length);
  expect(capabilities.reduce((set, each) => set | bitOf(each), noCapabilities)).toBe(allCapabilities);
});

describe('what comes of a place’s sheet', () => {
  const who: Grantee = { personId: 'p', groupIds: new Set(['g']) };
  const subject = fc.constantFrom<Grant['subject']>(
    { kind: 'person', id: 'p' },
    { kind: 'person', id: 'q' },
    { kind: 'group', id: 'g' },
    { kind: 'group', id: 'h' },
    { kind: 'everyone' },
  );
  const grant = fc.record({
    subject,
    gives: some.map(setOf),
    withholds: some.map((list: Capability[]) => list.reduce((set, each) => set | bitOf(each), 0)),
  });
  const step = fc.record({ follows: fc.boolean(), grants: fc.array(grant, { maxLength: 4 }) });

  it('is empty without sight, and never holds what is withheld there', () => {
    fc.assert(
      fc.property(some.map(setOf), step, (above, at) => {
        const set = resolveStep(above, at, who);
        if (!has(set, 'see')) expect(set).toBe(noCapabilities);
        for (const { subject: to, withholds } of at.grants) {
          const mine = to.kind === 'everyone' || (to.kind === 'person' ? to.id === 'p' : to.id === 'g');
          if (mine) expect(set & withholds).toBe(0);
        }
      }),
      { seed: 27, numRuns: 500 },
    );
  });

  it('does not depend on the order of its lines, nor on lines for others', () => {
    fc.assert(
      fc.property(some.map(setOf), step, (above, at) => {
        const set = resolveStep(above, at, who);
        expect(resolveStep(above, { ...at, grants: [...at.grants].reverse() }, who)).toBe(set);
        const mine = at.grants.filter(({ subject: to }) => to.kind === 'everyone' || to.id === 'p' || to.id === 'g');
        expect(resolveStep(above, { ...at, grants: mine }, who)).toBe(set);
      }),
      { seed: 28, numRuns: 500 },
    );
  });

  it('starts from nothing where a place stands alone, whatever stands above', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 4 }), step, (above, at) => {
        const alone = { ...at, follows: false };
        expect(resolve([...above, alone], who)).toBe(resolve([alone], who));
      }),
      { seed: 29 },
    );
  });
});
