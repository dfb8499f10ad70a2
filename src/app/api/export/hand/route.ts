import { Readable } from 'node:stream';
import contentDisposition from 'content-disposition';
import { answering } from '@/app/http/answer';
import { refuse } from '@/core/errors/refusal';
import { requireActor } from '@/server/auth/actorFrom';
import { now } from '@/server/base/clock';
import { exportPapers } from '@/server/exports/exportPapers';
import { papersInHand } from '@/server/hand/hand';

/** What the caller has in hand as a ZIP archive. */
export function GET(request: Request): Promise<Response> {
  return answering('/api/export/hand', async () => {
    const actor = await requireActor(request.headers);
    const held = await papersInHand(actor);
    if (held.length === 0) refuse('invalid', 'Nothing is in hand. Pick papers up first.');
    const archive = await exportPapers(
      actor,
      held.map(({ id }) => id),
    );
    return new Response(Readable.toWeb(archive) as ReadableStream<Uint8Array>, {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': contentDisposition(`Papers ${now().toISOString().slice(0, 10)}.zip`),
        'cache-control': 'no-store',
        'x-content-type-options': 'nosniff',
      },
    });
  });
}
