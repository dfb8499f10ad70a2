import type { z } from 'zod';
import { contract, isOperation, type OperationName } from '@/core/contract';
import { refuse } from '@/core/errors/refusal';
import { answering, json } from '@/app/http/answer';
import { readJson } from '@/app/http/body';
import type { Actor } from '@/server/gate/actor';
import { requireActing } from '@/server/acts/act';
import { requireActor, requireSameOrigin } from '@/server/auth/actorFrom';
import { operations } from '@/server/operations/operations';

interface Parameters {
  readonly params: Promise<{ operation: string }>;
}

/** Operations that take more than a form's worth: a hundred thousand cells, a table. In bytes. */
const largeBodies: Partial<Record<OperationName, number>> = {
  'papers.setCells': 40_000_000,
  'table.preview': 45_000_000,
  'table.apply': 45_000_000,
  'list.import': 6_000_000,
};

/** Every question and act of the contract: the input as JSON in, the output or problem details out. */
export async function POST(request: Request, { params }: Parameters): Promise<Response> {
  const { operation } = await params;
  return answering(operation, async () => {
    if (!isOperation(operation)) refuse('not-found');
    requireSameOrigin(request);
    const actor = await requireActor(request.headers);
    // A token that only reads does nothing by any act, whatever the act itself looks at.
    if (contract[operation].kind === 'act') requireActing(actor);
    return json(await run(operation, actor, await readJson(request, largeBodies[operation])));
  });
}

/** The contract's schema and the use-case under one name belong together; TypeScript cannot see that for a name it does not know yet. */
function run(name: OperationName, actor: Actor, raw: unknown): Promise<unknown> {
  const schema: z.ZodType = contract[name].input;
  const perform = operations[name] as (actor: Actor, input: unknown) => Promise<unknown>;
  return perform(actor, schema.parse(raw));
}
