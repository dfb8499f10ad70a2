import { firstKeeperSchema } from '@/core/people/contract';
import { answering, json, readJson } from '@/app/http/answer';
import { requireSameOrigin } from '@/server/auth/actorFrom';
import { foundLibrary } from '@/server/library/found';

/** Founds the library with its first keeper; possible once. */
export function POST(request: Request): Promise<Response> {
  return answering(async () => {
    requireSameOrigin(request);
    const input = firstKeeperSchema.parse(await readJson(request));
    await foundLibrary({ ...input, timeZone: 'Europe/London', yearStartMonth: 4 });
    return json({ email: input.email });
  });
}
