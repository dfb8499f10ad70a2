import type { z } from 'zod';

/**
 * An operation: its input schema and, as a type only, its output. An `ask` changes nothing; an `act` is one transaction
 * with its journal entry.
 */
export interface Operation<Kind extends 'ask' | 'act', Input extends z.ZodType, Output> {
  readonly kind: Kind;
  /** Of a question: `noPapers` if its answer does not change when papers do. */
  readonly reads: 'all' | 'noPapers';
  readonly input: Input;
  /** Never set: carries the output's type. */
  readonly output?: Output;
}

/**
 * Declares a question: `ask<Answer>()(inputSchema)`, or `ask<Answer>('noPapers')(inputSchema)` where its answer says nothing
 * of papers, so that screens need not ask it again when only papers have changed.
 */
export const ask =
  <Output>(reads: 'all' | 'noPapers' = 'all') =>
  <Input extends z.ZodType>(input: Input): Operation<'ask', Input, Output> => ({ kind: 'ask', reads, input });

/** Declares an act: `act<Answer>()(inputSchema)`. */
export const act =
  <Output = null>() =>
  <Input extends z.ZodType>(input: Input): Operation<'act', Input, Output> => ({ kind: 'act', reads: 'all', input });
