import fc from 'fast-check';
import { signAnswers, type SignAnswer } from './model';
import { signedTitle, signOffInWords, standingOf } from './standing';

const [yes, no, out] = ['agreed', 'declined', 'released'] as const;

it.each([
  ['waits for all, side by side', [null, null, null], 3, false, 'open', [0, 1, 2]],
  ['waits for the first alone, in turn', [null, null, null], 3, true, 'open', [0]],
  ['goes on to the next, in turn', [yes, null, null], 3, true, 'open', [1]],
  ['passes over one released, in turn', [yes, out, null], 3, true, 'open', [2]],
  ['goes on after one who declined where the rest is enough', [no, null, null], 2, true, 'open', [1]],
  ['is signed once all have', [yes, yes, yes], 3, false, 'signed', []],
  ['is signed by so many of them, and asks nobody any more', [yes, null, yes], 2, false, 'signed', []],
  ['is signed by all but one who is released', [yes, out, yes], 3, true, 'signed', []],
  ['is declined by one where all have to agree', [null, no, null], 3, false, 'declined', []],
  ['is declined once too few are left', [no, null, no], 2, false, 'declined', []],
  ['is not signed by nobody', [out, out], 2, false, 'declined', []],
] as const)('a sign-off %s', (_what, answers, needed, inTurn, state, turns) => {
  expect(standingOf(answers, needed, inTurn)).toMatchObject({ state, turns });
});

const answers = fc.array(fc.option(fc.constantFrom(...signAnswers), { nil: null }), { minLength: 1, maxLength: 8 });

it('never has anybody answer twice, nor after it is over; each turn brings it on', () => {
  fc.assert(
    fc.property(answers, fc.integer({ min: 1, max: 8 }), fc.boolean(), (given, needed, inTurn) => {
      const { state, turns, agreed, of } = standingOf(given, needed, inTurn);
      expect(agreed).toBeLessThanOrEqual(of);
      expect(turns.length > 0).toBe(state === 'open');
      for (const at of turns) {
        expect(given[at]).toBeNull();
        const next = given.map((each, other): SignAnswer | null => (other === at ? 'agreed' : each));
        expect(standingOf(next, needed, inTurn).agreed).toBe(agreed + 1);
      }
    }),
  );
});

it('comes to the same in whatever order all answer side by side', () => {
  fc.assert(
    fc.property(answers, fc.integer({ min: 1, max: 8 }), (given, needed) => {
      expect(standingOf([...given].reverse(), needed, false).state).toBe(standingOf(given, needed, false).state);
    }),
  );
});

it('is told in words, with the version', () => {
  expect(signOffInWords('sign', 'signed', { agreed: 3, of: 3 }, 2)).toBe('signed by 3 of 3, version 2');
  expect(signOffInWords('approve', 'open', { agreed: 0, of: 2 }, 1)).toBe('approved by 0 of 2 so far, version 1');
  expect(signOffInWords('sign', 'declined', { agreed: 0, of: 2 }, 1)).toBe('declined, version 1');
  expect(signedTitle('Minutes, 14 July', 'sign')).toBe('Minutes, 14 July, signed');
});
