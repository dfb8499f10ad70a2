import { tallyOf } from '../../../tests/oracle/agree';
import { RandomLibrary } from '../../../tests/oracle/randomLibrary';
import type { Question } from '../views/question';
import { selectionFor } from './selection';

const library = new RandomLibrary(11, 40);
const question: Question = { ...library.question(), placeId: library.places[0]?.id ?? '', below: true, conditions: [] };
const keeper = { ...library.asker(question), keeper: true, openTo: new Map(), found: new Map(), own: new Map() };

it('is the same one for other arrangements of the same papers, until anything changes', () => {
  const tally = tallyOf(library);
  const first = selectionFor(tally, question, keeper);
  expect(selectionFor(tally, { ...question, sorts: [], groupings: [], start: 5, limit: 1 }, { ...keeper })).toBe(first);
  tally.putPapers([...library.papers.values()].slice(0, 1));
  expect(selectionFor(tally, question, keeper)).not.toBe(first);
});

it('is another one for each place, condition, person and day, and for what was read for one question only', () => {
  const tally = tallyOf(library);
  const reader = { ...keeper, keeper: false, personId: 'reader', scopes: new Set(['a scope']) };
  const isAnother = (asked: Partial<typeof question>, asking: Partial<typeof keeper>, than = keeper): boolean => {
    // Asked for anew each time, so that it is one of the last few.
    const before = selectionFor(tally, question, than);
    expect(selectionFor(tally, { ...question }, { ...than })).toBe(before);
    return selectionFor(tally, { ...question, ...asked }, { ...than, ...asking }) !== before;
  };
  expect(isAnother({ placeId: library.places[1]?.id ?? '' }, {})).toBe(true);
  expect(isAnother({ below: false }, {})).toBe(true);
  expect(isAnother({ conditions: [{ of: 'title', filled: true }] }, {})).toBe(true);
  expect(isAnother({}, { keeper: false })).toBe(true);
  expect(isAnother({}, { personId: 'somebody else' })).toBe(true);
  expect(isAnother({}, { today: keeper.today + 1 })).toBe(true);
  expect(isAnother({}, { lookedAtMs: 1 })).toBe(true);
  for (const set of ['scopes', 'byOpening', 'managed', 'groupMates', 'labels'] as const)
    expect(isAnother({}, { [set]: new Set(['another']) }, reader)).toBe(true);
  const read = { ...keeper, found: new Map([['some', new Set<string>()]]) };
  expect(selectionFor(tally, question, read)).not.toBe(selectionFor(tally, question, read));
  const own = { ...keeper, own: new Map([['in-hand' as const, new Set<string>()]]) };
  expect(selectionFor(tally, question, own)).not.toBe(selectionFor(tally, question, own));
});
