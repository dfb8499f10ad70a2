import type { Result } from '../errors/result';
import type { Part } from '../views/conditions';
import type { Answer, Asker, Question } from '../views/question';
import { answerFrom } from './answer';
import { belowFrom, type Below, type BelowQuestion } from './below';
import { holdingsFrom, type Holdings, type HoldingsQuestion } from './holdings';
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
