import { bytesPerSecond, paceWindowMs, secondsLeft, withReading, type Reading } from './pace';

const readings = (...pairs: [number, number][]): Reading[] =>
  pairs.reduce<Reading[]>((all, [atMs, bytes]) => withReading(all, { atMs, bytes }), []);

it('has no speed before there are two readings apart in time', () => {
  expect(bytesPerSecond([])).toBeNull();
  expect(bytesPerSecond(readings([0, 5]))).toBeNull();
  expect(bytesPerSecond(readings([10, 5], [10, 9]))).toBeNull();
});

it('reckons the speed over its window, and forgets what lies before', () => {
  expect(bytesPerSecond(readings([0, 0], [1000, 500], [2000, 1000]))).toBe(500);
  const long = readings([0, 0], [1000, 100_000], [paceWindowMs + 2000, 100_000], [paceWindowMs + 3000, 101_000]);
  expect(long[0]?.atMs).toBeGreaterThan(0);
  expect(bytesPerSecond(long)).toBeLessThan(1000);
});

it('is never below nought, though an upload that goes on begins again further back', () => {
  expect(bytesPerSecond(readings([0, 1000], [1000, 400]))).toBe(0);
});

it('says the time left only where it can be said', () => {
  expect(secondsLeft(1000, 500)).toBe(2);
  expect(secondsLeft(1000, 0)).toBeNull();
  expect(secondsLeft(1000, null)).toBeNull();
});
