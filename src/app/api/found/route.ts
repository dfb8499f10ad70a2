import { firstKeeperSchema } from '@/core/people/contract';
import { answering, json } from '@/app/http/answer';
import { readJson } from '@/app/http/body';
import { requireSameOrigin } from '@/server/auth/actorFrom';
import { foundLibrary } from '@/server/library/found';

/** Founds the library with its first keeper; possible once. */
export function POST(request: Request): Promise<Response> {
  return answering('/api/found', async () => {
    requireSameOrigin(request);
    const input = firstKeeperSchema.parse(await readJson(request, 20_000));
    await foundLibrary({ ...input, timeZone: 'Europe/London', yearStartMonth: 4 });
    return json({ email: input.email });
  });
}
