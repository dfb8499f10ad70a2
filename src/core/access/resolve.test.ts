import fc from 'fast-check';
import {
  allCapabilities,
  bitOf,
  capabilities,
  closed,
  has,
  listOf,
  readySets,
  setOf,
  type Capability,
} from './capability';
import { resolve, type Grant, type Grantee, type Step, type Subject } from './resolve';
import { readySetOf, setInWords } from './words';

const actor: Grantee = { personId: 'p1', groupIds: new Set(['g1', 'g2']) };
const grant = (subject: Subject, gives: readonly Capability[], withholds: readonly Capability[] = []): Grant => ({
  subject,
  gives: setOf(gives),
  withholds: withholds.reduce((set, each) => set | bitOf(each), 0),
});
const me: Subject = { kind: 'person', id: 'p1' };
const myGroup: Subject = { kind: 'group', id: 'g1' };
const step = (follows: boolean, ...grants: Grant[]): Step => ({ follows, grants });

describe('capabilities', () => {
  it('bring see with any of them, and manage brings all', () => {
    expect(listOf(setOf(['add']))).toEqual(['see', 'add']);
    expect(setOf(['manage'])).toBe(allCapabilities);
    expect(setOf([])).toBe(0);
  });

  it('read as words', () => {
    expect(setInWords(readySets.reader)).toBe('may see and take copies');
    expect(setInWords(readySets.manager)).toBe('may do everything');
    expect(setInWords(0)).toBe('may do nothing');
    expect(readySetOf(readySets.officer)).toBe('officer');
    expect(readySetOf(setOf(['add']))).toBeNull();
  });
});

describe('resolving access', () => {
  it('gives nothing where nothing is granted', () => {
    expect(resolve([step(true), step(true)], actor)).toBe(0);
  });

  it('adds up what is granted to the person, their groups and everyone, from above downwards', () => {
    const path = [
      step(true, grant(myGroup, ['take'])),
      step(true, grant(me, ['amend']), grant({ kind: 'everyone' }, ['see'])),
    ];
    expect(listOf(resolve(path, actor))).toEqual(['see', 'take', 'amend']);
  });

  it('does not hear what is granted to others', () => {
    expect(resolve([step(true, grant({ kind: 'group', id: 'g9' }, ['manage']))], actor)).toBe(0);
  });

  it('lets withholding beat granting on the same place, and a lower grant give again', () => {
    const withheld = step(true, grant(me, ['see', 'take']), grant(myGroup, [], ['see']));
    expect(resolve([withheld], actor)).toBe(0);
    expect(listOf(resolve([withheld, step(true, grant(me, ['take']))], actor))).toEqual(['see', 'take']);
  });

  it('starts from nothing where a place stands alone', () => {
    expect(resolve([step(true, grant(me, ['manage'])), step(false)], actor)).toBe(0);
  });

  it('agrees with a plain reading of the rule on random paths', () => {
    const subject = fc.constantFrom<Subject>(
      me,
      myGroup,
      { kind: 'group', id: 'g9' },
      { kind: 'person', id: 'p2' },
      { kind: 'everyone' },
    );
    const set = fc.integer({ min: 0, max: allCapabilities });
    const steps = fc.array(
      fc.record({
        follows: fc.boolean(),
        grants: fc.array(fc.record({ subject, gives: set, withholds: set }), { maxLength: 4 }),
      }),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(steps, (path) => {
        expect(new Set(listOf(resolve(path, actor)))).toEqual(plainly(path));
      }),
      { seed: 3, numRuns: 3000 },
    );
  });
});

/** The rule once more, with sets of words in place of bits. */
function plainly(path: readonly Step[]): Set<Capability> {
  let now = new Set<Capability>();
  for (const { follows, grants } of path) {
    const mine = grants.filter(
      ({ subject }) => subject.kind === 'everyone' || subject.id === 'p1' || subject.id === 'g1' || subject.id === 'g2',
    );
    const next = new Set(follows ? now : []);
    for (const { gives } of mine) for (const each of capabilities) if (has(closed(gives), each)) next.add(each);
    for (const { withholds } of mine) for (const each of capabilities) if (has(withholds, each)) next.delete(each);
    now = next.has('see') ? next : new Set();
  }
  return now;
}
