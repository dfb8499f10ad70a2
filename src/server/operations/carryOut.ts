import type { z } from 'zod';
import { contract, type OperationName } from '@/core/contract';
import { requireOwnSight } from '../acts/act';
import type { Actor } from '../gate/actor';
import { operations } from './operations';

/**
 * Carries out an operation for a caller: checks that they may act at all before an act's input is read, then its input
 * against the contract.
 * @param readInput reads the input, which is not trusted.
 * @throws Refusal; ZodError if the input is not what the contract says.
 */
export async function carryOut(name: OperationName, actor: Actor, readInput: () => Promise<unknown>): Promise<unknown> {
  if (contract[name].kind === 'act') requireOwnSight(actor);
  const schema: z.ZodType = contract[name].input;
  // The schema and the use-case under one name belong together; TypeScript cannot see that for a name it does not know yet.
  const carriesOut = operations[name] as (actor: Actor, input: unknown) => Promise<unknown>;
  return carriesOut(actor, schema.parse(await readInput()));
}
