import { restartAfter } from './restarts';

it('waits longer each time within a minute, and no longer than a quarter of one', () => {
  let deaths: readonly number[] = [];
  const pauses = Array.from({ length: 9 }, (_, at) => {
    const next = restartAfter(deaths, at * 1000);
    deaths = next.deathsMs;
    return next.pauseMs;
  });
  expect(pauses).toEqual([100, 200, 400, 800, 1600, 3200, 6400, 12_800, 15_000]);
});

it('tells of every third death within a minute', () => {
  let deaths: readonly number[] = [];
  const told = Array.from({ length: 6 }, (_, at) => {
    const next = restartAfter(deaths, at * 1000);
    deaths = next.deathsMs;
    return next.tell;
  });
  expect(told).toEqual([false, false, true, false, false, true]);
});

it('begins anew once a minute has gone by', () => {
  const { deathsMs } = restartAfter(restartAfter([], 0).deathsMs, 1000);
  expect(restartAfter(deathsMs, 62_000)).toEqual({ pauseMs: 100, tell: false, deathsMs: [62_000] });
});
