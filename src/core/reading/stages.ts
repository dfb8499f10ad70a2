import type { ReadingFault } from './fault';

/**
 * The stages in which content is read, each kept and repeatable by itself, in the order in which they run. What the
 * content *is* was found when it was filed. `form` makes what the screen shows (pages, sheets, a mail), `picture` the
 * first page's picture, `text` the text by page, `facts` what is known of it as a whole, `terms` the words by
 * which it is found.
 */
export const stages = ['form', 'picture', 'text', 'facts', 'terms'] as const;
export type Stage = (typeof stages)[number];

/**
 * How each stage is run: the number of its program, raised whenever its results change, and the stages whose results it
 * uses. Content read by an earlier program is read again from there on, and no other stage of it.
 */
export const stagePrograms: Readonly<Record<Stage, { readonly program: number; readonly uses: readonly Stage[] }>> = {
  form: { program: 2, uses: [] },
  picture: { program: 1, uses: ['form'] },
  text: { program: 2, uses: ['form'] },
  facts: { program: 2, uses: ['text'] },
  terms: { program: 2, uses: ['text', 'facts'] },
};

/** The program of a stage that someone has asked to run again. */
export const askedAgain = 0;

/** What a stage came to: all of it, a part, nothing that there is to read, or a failure. */
export const stageOutcomes = ['done', 'part', 'nothing', 'failed'] as const;
export type StageOutcome = (typeof stageOutcomes)[number];

/** A stage that has run on some content. */
export interface StageResult {
  readonly stage: Stage;
  readonly program: number;
  readonly outcome: StageOutcome;
  /** Why it failed or gave only a part; null otherwise. */
  readonly why: ReadingFault | null;
}

/** The stages that are still to run, in their order. A stage runs again if one that it uses does. */
export function dueStages(results: readonly StageResult[]): Stage[] {
  const current = new Map(results.map((result) => [result.stage, result.program]));
  const due: Stage[] = [];
  for (const stage of stages) {
    const { program, uses } = stagePrograms[stage];
    if (current.get(stage) !== program || uses.some((used) => due.includes(used))) due.push(stage);
  }
  return due;
}

/** How far reading some content has come. */
export const readingStates = ['waiting', 'beingRead', 'read', 'readInPart', 'nothing', 'unreadable'] as const;
export type ReadingState = (typeof readingStates)[number];

/** The same in words. */
export const readingStateWords: Readonly<Record<ReadingState, string>> = {
  waiting: 'Waiting to be read',
  beingRead: 'Being read',
  read: 'Read',
  readInPart: 'Read in part',
  nothing: 'Nothing to read in it',
  unreadable: 'Not readable',
};

/** The state of a content, and why if it is not wholly read. */
export interface Reading {
  readonly state: ReadingState;
  readonly why: ReadingFault | null;
}

/**
 * How far reading has come, from the results so far. `begun`: an attempt at a stage is under way, or failed and will be
 * repeated. While a new program is awaited, what an earlier one found still counts.
 */
export function readingOf(results: readonly StageResult[], begun: boolean): Reading {
  const of = (stage: Stage) => results.find((result) => result.stage === stage);
  if (stages.some((stage) => !of(stage)))
    return { state: begun || results.length > 0 ? 'beingRead' : 'waiting', why: null };
  if (results.some(({ program }) => program === askedAgain)) return { state: 'beingRead', why: null };
  const why = stages.map((stage) => of(stage)?.why ?? null).find((each) => each !== null) ?? null;
  const [text, form] = [of('text')?.outcome, of('form')?.outcome];
  if (text === 'failed') return { state: of('picture')?.outcome === 'done' ? 'readInPart' : 'unreadable', why };
  if (text === 'nothing') return form === 'failed' ? { state: 'unreadable', why } : { state: 'nothing', why: null };
  const whole = stages.every((stage) => of(stage)?.outcome === 'done' || of(stage)?.outcome === 'nothing');
  return whole ? { state: 'read', why: null } : { state: 'readInPart', why };
}

/** Whether more is to be found in some content than is there now. */
export const isUnderWay = ({ state }: Reading): boolean => state === 'waiting' || state === 'beingRead';

/** Before all that waits, whatever its size: content that someone has open now. */
export const openedPriority = 1000;

/** Where content goes in the queue: small before large, by powers of two. At most 0. */
export const readingPriority = (sizeBytes: number): number => -Math.floor(Math.log2(sizeBytes + 1));
