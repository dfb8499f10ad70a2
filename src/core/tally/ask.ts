import type { Result } from '../errors/result';
import { conditionsIn, findsIn, isFind, type Part } from '../views/conditions';
import type { Answer, Asker, Question } from '../views/question';
import { readQuestion } from '../search/question';
import { termsFor } from '../search/terms';
import { answerFrom } from './answer';
import { belowFrom, type Below, type BelowQuestion } from './below';
import { holdingsFrom, type Holdings, type HoldingsQuestion } from './holdings';
import { indexOf } from './found';
import { meantBy, nearTerms } from './meant';
import { selectionFor } from './selection';
import type { Tally } from './tally';

/**
 * Questions a tally answers: what a view shows, what a series contains and which expected papers it has, or how many papers
 * stand below places.
 */
export interface TallyAsks {
  readonly view: { readonly question: Question; readonly answer: Answer };
  readonly holdings: { readonly question: HoldingsQuestion; readonly answer: Holdings };
  readonly below: { readonly question: BelowQuestion; readonly answer: Below };
}
/** The name of a question. */
export type TallyAsk = keyof TallyAsks;

interface Way<K extends TallyAsk> {
  readonly conditions: (question: TallyAsks[K]['question']) => readonly Part[];
  /** Properties whose values to count. */
  readonly counts: (question: TallyAsks[K]['question']) => readonly string[];
  readonly answer: (tally: Tally, question: TallyAsks[K]['question'], asker: Asker) => Result<TallyAsks[K]['answer']>;
}

/** How the tally answers each of its questions. */
export const tallyWays: { readonly [K in TallyAsk]: Way<K> } = {
  view: { conditions: ({ conditions }) => conditions, counts: ({ counts }) => counts, answer: answerFrom },
  holdings: {
    conditions: ({ expected }) => expected.flatMap(({ conditions }) => conditions),
    counts: () => [],
    answer: holdingsFrom,
  },
  below: { conditions: () => [], counts: () => [], answer: belowFrom },
};

/** The terms of texts that conditions by words need: the index has to have them before the question is answered. */
export function termsOf(tally: Tally, conditions: readonly Part[]): string[] {
  const { languages, terms } = indexOf(tally);
  return conditionsIn(conditions)
    .filter(isFind)
    .flatMap(({ find }) => termsFor(readQuestion(find), languages, terms));
}

/** What may have been meant by rare words of a view's question that has been answered; `has` makes the index have terms. */
export async function answerWithMeant(
  tally: Tally,
  question: Question,
  asker: Asker,
  answer: Result<Answer>,
  has: (terms: readonly string[]) => Promise<void>,
): Promise<Result<Answer>> {
  if (!answer.ok || question.start > 0 || findsIn(question.conditions).length === 0) return answer;
  const { scan } = selectionFor(tally, question, asker);
  await has(nearTerms(scan));
  const meant = meantBy(scan);
  return meant.length === 0 ? answer : { ok: true, value: { ...answer.value, meant } };
}
