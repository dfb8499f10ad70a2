import { linkEnd, mostWrongTries } from './model';

const open = { withdrawn: false, expiresMs: 1000, mostOpenings: null, openings: 7, wrongTries: 0 };

it.each([
  ['opens until its end', open, 999, null],
  ['has expired at its end', open, 1000, 'expired'],
  ['is used up once it was opened as often as it may', { ...open, mostOpenings: 7 }, 0, 'usedUp'],
  ['opens as long as one opening is left', { ...open, mostOpenings: 8 }, 0, null],
  [
    'opens nothing once withdrawn, whatever else is true',
    { ...open, withdrawn: true, mostOpenings: 8 },
    0,
    'withdrawn',
  ],
  ['is shut once it was guessed at too often', { ...open, wrongTries: mostWrongTries }, 0, 'withdrawn'],
  ['is not shut by one try less', { ...open, wrongTries: mostWrongTries - 1 }, 0, null],
] as const)('a link %s', (_what, link, nowMs, ended) => {
  expect(linkEnd(link, nowMs)).toBe(ended);
});
