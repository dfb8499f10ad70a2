import type { OutsideLinkRow } from './model';
import { linkTermsInWords, linkUseInWords } from './words';

const row: OutsideLinkRow = {
  id: '1',
  name: 'Lease',
  on: { kind: 'paper', id: '2' },
  email: null,
  hasPassword: false,
  copies: true,
  expiresAt: '2026-08-01T00:00:00Z',
  mostOpenings: null,
  openings: 0,
  lastOpenedAt: null,
  madeBy: 'Maren Tolliver',
  madeAt: '2026-07-01T00:00:00Z',
  ended: null,
};

it.each([
  [{}, 'for anyone who has it'],
  [{ email: 'ann@example.org', copies: false }, 'for ann@example.org, without copies'],
  [{ hasPassword: true }, 'for anyone who has it, with a password'],
] as const)('says what a link asks for: %j', (some, words) => {
  expect(linkTermsInWords({ ...row, ...some })).toBe(words);
});

it.each([
  [0, null, 'never opened'],
  [0, 3, 'never opened, 3 at most'],
  [1, null, 'opened 1 time'],
  [2, 5, 'opened 2 times of 5'],
] as const)('says how often one was opened: %j of %j', (openings, mostOpenings, words) => {
  expect(linkUseInWords({ openings, mostOpenings })).toBe(words);
});
