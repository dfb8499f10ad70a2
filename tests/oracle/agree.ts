import type { Answer } from '@/core/views/question';
import { answerFrom } from '@/core/tally/answer';
import { Tally } from '@/core/tally/tally';
import { Naive } from './naive';
import type { RandomLibrary } from './randomLibrary';

/** Sums of decimals differ in their last digit by the order of adding; all else has to be the same. */
const rounded = (answer: Answer): unknown =>
  JSON.parse(
    JSON.stringify(answer, (key, value: unknown) => (key === 'sum' ? Number(Number(value).toFixed(6)) : value)),
  );

/** A tally of all that a library holds. */
export function tallyOf(library: RandomLibrary): Tally {
  const tally = new Tally(library.world);
  tally.putPlaces(library.places);
  tally.putPapers(library.papers.values());
  return tally;
}

/** Asks a random question of a tally and of the plainest evaluator: they have to say the same. Gives the answer. */
export function agree(tally: Tally, library: RandomLibrary): Answer {
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
