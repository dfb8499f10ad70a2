import { dueAt, waitInWords } from './due';

const disposed = new Date('2026-03-28T23:30:00.000Z');
const long = new Date('2020-01-01T00:00:00.000Z');

it('is due so many times 24 hours later, also over the days on which clocks are changed', () => {
  expect(dueAt(disposed, 2, long)).toBe('2026-03-30T23:30:00.000Z');
  expect(dueAt(disposed, 365, long)).toBe('2027-03-28T23:30:00.000Z');
  expect(dueAt(disposed, null, long)).toBeNull();
});

it.each([
  ['2026-03-28T23:30:00.000Z', '2 days more'],
  ['2026-03-29T23:29:59.000Z', '2 days more'],
  ['2026-03-29T23:30:00.000Z', 'one day more'],
  ['2026-03-30T23:29:59.000Z', 'one day more'],
  ['2026-03-30T23:30:00.000Z', 'destroyed within the hour'],
  ['2026-04-30T00:00:00.000Z', 'destroyed within the hour'],
])('says at %s how long a paper still waits: %s', (now, words) => {
  expect(waitInWords(dueAt(disposed, 2, long), now)).toBe(words);
});

it('says that it waits without an end', () => {
  expect(waitInWords(null, '2026-03-30T00:00:00.000Z')).toBe('until someone destroys it');
});

it('is not due within a week of a change of the days', () => {
  const since = new Date('2026-06-01T00:00:00.000Z');
  expect(dueAt(disposed, 1, since)).toBe('2026-06-08T00:00:00.000Z');
  expect(dueAt(disposed, 100, since)).toBe('2026-07-06T23:30:00.000Z');
});
