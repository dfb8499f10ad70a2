import { dueAt, waitInWords } from './due';

const disposed = new Date('2026-03-28T23:30:00.000Z');

it('is due so many times 24 hours later, also over the days on which clocks are changed', () => {
  expect(dueAt(disposed, 2)).toBe('2026-03-30T23:30:00.000Z');
  expect(dueAt(disposed, 365)).toBe('2027-03-28T23:30:00.000Z');
  expect(dueAt(disposed, null)).toBeNull();
});

it.each([
  ['2026-03-28T23:30:00.000Z', '2 days more'],
  ['2026-03-29T23:29:59.000Z', '2 days more'],
  ['2026-03-29T23:30:00.000Z', 'one day more'],
  ['2026-03-30T23:29:59.000Z', 'one day more'],
  ['2026-03-30T23:30:00.000Z', 'destroyed within the hour'],
  ['2026-04-30T00:00:00.000Z', 'destroyed within the hour'],
])('says at %s how long a paper still waits: %s', (now, words) => {
  expect(waitInWords(dueAt(disposed, 2), now)).toBe(words);
});

it('says that it waits without an end', () => {
  expect(waitInWords(null, '2026-03-30T00:00:00.000Z')).toBe('until someone destroys it');
});
