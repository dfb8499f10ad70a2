import { z } from 'zod';
import { contract, type OperationName } from '@/core/contract';
import { Refusal } from '@/core/errors/refusal';
import type { Actor } from '@/server/gate/actor';
import { databaseIssue } from '@/server/db/databaseIssue';
import { operations } from '@/server/operations/operations';
import { Chance } from '../oracle/chance';
import { dropLibrary, freshLibrary, newcomer, open } from '../library';
import { calls } from './calls';
import { made, oneOfEach, type Ids } from './oneOfEach';

/** How often each operation is asked; 20,000 inputs in all are about a hundred and thirty each, by the environment. */
const times = Number(process.env['EMBRIN_FUZZ_TIMES'] ?? 12);
const names = Object.keys(contract) as OperationName[];

let keeper: Actor;
let reader: Actor;
let ids: Ids;

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  const things = await oneOfEach(keeper, 'Plain');
  await open(keeper, things.series, reader, 'officer');
  ids = { ...made, ...things, person: reader.personId, entry: 5 };
});
afterAll(dropLibrary);

/** What somebody might send in place of what belongs there. */
const odd: readonly unknown[] = [
  null,
  undefined,
  '',
  '\u0000',
  'a\u0000b',
  '\ud800',
  '%_\\',
  "'; drop table place; --",
  '\u202Etxt.exe',
  'x'.repeat(5000),
  -1,
  0,
  1.5,
  2_147_483_647,
  2_147_483_648,
  9_007_199_254_740_991,
  1e308,
  Number.NaN,
  Infinity,
  true,
  [],
  {},
  '9999-12-31',
  '0001-01-01',
  '2026-02-30',
  '00000000-0000-0000-0000-000000000000',
  { toString: 'x' },
  ['__proto__'],
];

const oddOf = (chance: Chance): unknown => odd[chance.whole(0, odd.length - 1)];

/** An input with one or two of its parts put out of shape. */
function bent(chance: Chance, input: unknown): unknown {
  if (chance.happens(0.1)) return oddOf(chance);
  if (Array.isArray(input)) {
    if (input.length === 0 || chance.happens(0.2)) return [oddOf(chance)];
    const at = chance.whole(0, input.length - 1);
    return input.map((each: unknown, index) => (index === at ? bent(chance, each) : each));
  }
  if (input === null || typeof input !== 'object') return chance.happens(0.3) ? pickedFrom(chance) : oddOf(chance);
  const keys = Object.keys(input);
  if (keys.length === 0) return { more: oddOf(chance) };
  const key = chance.pick(keys);
  return { ...input, [key]: bent(chance, (input as Record<string, unknown>)[key]) };
}

/** An id of something else than was meant. */
const pickedFrom = (chance: Chance): unknown => chance.pick(Object.values(ids) as unknown[]);

/** Whether an operation was done or refused in words: `fault` is what a person would be told nothing of but a number. */
async function outcome(name: OperationName, actor: Actor, input: unknown): Promise<string> {
  const schema: z.ZodType = contract[name].input;
  try {
    const perform = operations[name] as (actor: Actor, input: unknown) => Promise<unknown>;
    await perform(actor, schema.parse(input));
    return 'done';
  } catch (error) {
    if (error instanceof Refusal) return error.issue.kind;
    if (error instanceof z.ZodError) return 'invalid';
    return databaseIssue(error)?.kind ?? `fault: ${String(error instanceof Error ? (error.cause ?? error) : error)}`;
  }
}

it.each(names)('%s answers anything that is sent to it, or refuses it in words', async (name) => {
  const chance = new Chance(names.indexOf(name) * 1000 + Number(process.env['EMBRIN_FUZZ_SEED'] ?? 1));
  for (let at = 0; at < times; at += 1) {
    const input = bent(chance, calls[name](ids));
    for (const actor of chance.happens(0.5) ? [reader] : [keeper]) {
      const told = await outcome(name, actor, input);
      if (told.startsWith('fault')) throw new Error(`${name} with ${JSON.stringify(input)}: ${told}`);
    }
  }
});
