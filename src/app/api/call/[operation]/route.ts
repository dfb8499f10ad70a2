import { isOperation, type OperationName } from '@/core/contract';
import { refuse } from '@/core/errors/refusal';
import { answering, json } from '@/app/http/answer';
import { readJson } from '@/app/http/body';
import { requireActor, requireSameOrigin } from '@/server/auth/actorFrom';
import { carryOut } from '@/server/operations/carryOut';

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
    return json(await carryOut(operation, actor, () => readJson(request, largeBodies[operation])));
  });
}
