import { Turns } from './turns';

it('runs so many at once and no more, in the order in which they came, also where some fail', async () => {
  const turns = new Turns(2);
  const begun: number[] = [];
  let [running, most] = [0, 0];
  const work = (at: number) =>
    turns.run(async () => {
      begun.push(at);
      running += 1;
      most = Math.max(most, running);
      await new Promise((next) => setImmediate(next));
      running -= 1;
      if (at % 3 === 0) throw new Error(String(at));
      return at;
    });
  const outcomes = await Promise.allSettled(Array.from({ length: 9 }, (_, at) => work(at)));
  expect(begun).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
  expect(most).toBe(2);
  expect(outcomes.map((outcome) => outcome.status === 'fulfilled')).toEqual(
    Array.from({ length: 9 }, (_, at) => at % 3 !== 0),
  );
});
