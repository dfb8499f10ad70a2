import { Naive } from '../../../../tests/oracle/naive';
import { RandomLibrary } from '../../../../tests/oracle/randomLibrary';
import type { Answer } from '../question';
import { answerFrom } from './answer';
import { Tally } from './tally';

/** Sums of decimals differ in their last digit by the order of adding; all else has to be the same. */
const rounded = (answer: Answer): unknown =>
  JSON.parse(
    JSON.stringify(answer, (key, value: unknown) => (key === 'sum' ? Number(Number(value).toFixed(6)) : value)),
  );

function tallyOf(library: RandomLibrary): Tally {
  const tally = new Tally(library.world);
  tally.putPlaces(library.places);
  tally.putPapers(library.papers.values());
  return tally;
}

function agree(tally: Tally, library: RandomLibrary): Answer {
  const question = library.question();
  const asker = library.asker(question);
  const answer = answerFrom(tally, question, asker);
  if (!answer.ok) throw new Error(`${answer.issue.says} ${JSON.stringify(question)}`);
  const expected = new Naive(library.plain, question, asker).answer();
  try {
    expect(rounded(answer.value)).toEqual(rounded(expected));
  } catch (error) {
    throw new Error(`Seen with ${JSON.stringify(question)}\n${String(error)}`);
  }
  return answer.value;
}

it('answers as the plainest evaluator does, for 2,600 random views of 130 random libraries', () => {
  let [shown, some] = [0, 0];
  for (let seed = 1; seed <= 130; seed += 1) {
    const library = new RandomLibrary(seed);
    const tally = tallyOf(library);
    for (let view = 0; view < 20; view += 1) {
      const answer = agree(tally, library);
      shown += answer.totals.papers;
      some += Number(answer.totals.papers > 0);
    }
  }
  // The questions are worth asking: a good part of them leaves papers, and not all.
  expect(some).toBeGreaterThan(1000);
  expect(shown / 2600).toBeLessThan(30);
});

it('goes on doing so after papers come, change and go and places change, for 2,600 more', () => {
  for (let seed = 1001; seed <= 1130; seed += 1) {
    const library = new RandomLibrary(seed, 25);
    const tally = tallyOf(library);
    for (let round = 0; round < 20; round += 1) {
      const what = (seed + round * 7) % 5;
      if (what === 0) tally.putPapers([library.put()]);
      else if (what === 1) tally.removePapers([library.remove()]);
      else if (what === 2) tally.putPlaces(library.changePlace());
      else tally.putPapers([library.changeOne()]);
      agree(tally, library);
    }
    expect(tally.papers).toBe(library.papers.size);
  }
});
