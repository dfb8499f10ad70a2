import type { z } from 'zod';

/**
 * An operation: its input schema and, as a type only, its output. An `ask` changes nothing; an `act` is one transaction
 * with its journal entry.
 */
export interface Operation<Kind extends 'ask' | 'act', Input extends z.ZodType, Output> {
  readonly kind: Kind;
  readonly input: Input;
  /** Never set: carries the output's type. */
  readonly output?: Output;
}

/** Declares a question: `ask<Answer>()(inputSchema)`. */
export const ask =
  <Output>() =>
  <Input extends z.ZodType>(input: Input): Operation<'ask', Input, Output> => ({ kind: 'ask', input });

/** Declares an act: `act<Answer>()(inputSchema)`. */
export const act =
  <Output = null>() =>
  <Input extends z.ZodType>(input: Input): Operation<'act', Input, Output> => ({ kind: 'act', input });
