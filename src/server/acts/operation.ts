import type { Contract, OperationName, OutputOf, ReadInputOf } from '@/core/contract';
import type { Tx } from '../db/client';
import type { Derived } from '../db/transaction';
import type { Actor } from '../gate/actor';
import { perform, requireOwnSight, type Done } from './act';

type NameOf<Kind extends 'ask' | 'act'> = {
  [N in OperationName]: Contract[N]['kind'] extends Kind ? N : never;
}[OperationName];
type Asked = NameOf<'ask'>;
type Acted = NameOf<'act'>;

/** The input, which need not be given where it may be empty. */
type Given<N extends OperationName> =
  Record<string, never> extends ReadInputOf<N> ? [input?: ReadInputOf<N>] : [input: ReadInputOf<N>];

/**
 * The use-case of one operation of the contract, with what it is: called as a function it carries the operation out,
 * input already checked against the contract's schema.
 */
export interface UseCase<N extends OperationName> {
  (actor: Actor, ...input: Given<N>): Promise<OutputOf<N>>;
  readonly operation: N;
  /** The derived data an act changes, which its transaction locks. Null where it runs its own transactions, and for questions. */
  readonly changes: readonly Derived[] | null;
}

/** Declares the use-case of a question. What it runs on refuses writing. */
export const asks = <N extends Asked>(
  operation: N,
  work: (actor: Actor, input: ReadInputOf<N>) => Promise<OutputOf<N>>,
): UseCase<N> => declared(operation, null, work);

/**
 * Declares the use-case of an act: one transaction with its journal entry, which `perform` opens.
 * @param changes the derived data that the work changes; it is locked before anything is read.
 * @param work may run several times after conflicts, so it must have no effect outside the transaction.
 */
export const acts = <N extends Acted>(
  operation: N,
  changes: readonly Derived[],
  work: (tx: Tx, actor: Actor, input: ReadInputOf<N>) => Promise<Done<OutputOf<N>>>,
): UseCase<N> =>
  declared(operation, changes, (actor, input) => perform(actor, changes, (tx) => work(tx, actor, input)));

/**
 * Declares the use-case of an act with something to do before or after its transaction: mail, a password to hash, a table
 * to be read by a caged process. It calls `perform` itself.
 */
export const actsInSteps = <N extends Acted>(
  operation: N,
  work: (actor: Actor, input: ReadInputOf<N>) => Promise<OutputOf<N>>,
): UseCase<N> =>
  declared(operation, null, async (actor, input) => {
    requireOwnSight(actor);
    return work(actor, input);
  });

function declared<N extends OperationName>(
  operation: N,
  changes: readonly Derived[] | null,
  work: (actor: Actor, input: ReadInputOf<N>) => Promise<OutputOf<N>>,
): UseCase<N> {
  const carriedOut = (actor: Actor, ...[input]: Given<N>) => work(actor, input ?? ({} as ReadInputOf<N>));
  return Object.assign(carriedOut, { operation, changes });
}
