import { howSure } from './howSure';

it('tells for what was about equally sure how much of it was right, the surest first', () => {
  const told = [
    { sure: 1, right: true },
    { sure: 0.97, right: true },
    { sure: 0.96, right: true },
    { sure: 0.9, right: false },
    { sure: 0.2, right: false },
  ];
  expect(howSure(told)).toEqual([
    { from: 0.97, said: 0.985, right: 2, of: 2 },
    { from: 0.9, said: 0.9299999999999999, right: 1, of: 2 },
    { from: 0, said: 0.2, right: 0, of: 1 },
  ]);
  expect(howSure([])).toEqual([]);
});
