import { agree, tallyOf } from '../../../tests/oracle/agree';
import { RandomLibrary } from '../../../tests/oracle/randomLibrary';

it('answers as the plainest evaluator does, for 600 random views of 30 random libraries', () => {
  let [shown, some] = [0, 0];
  for (let seed = 1; seed <= 30; seed += 1) {
    const library = new RandomLibrary(seed);
    const tally = tallyOf(library);
    for (let view = 0; view < 20; view += 1) {
      const answer = agree(tally, library);
      shown += answer.totals.papers;
      some += Number(answer.totals.papers > 0);
    }
  }
  // The questions are worth asking: a good part of them leaves papers, and not all.
  expect(some).toBeGreaterThan(225);
  expect(shown / 600).toBeLessThan(30);
});
