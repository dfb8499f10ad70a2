import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import contentDisposition from 'content-disposition';
import { z } from 'zod';
import { answering } from '@/app/http/answer';
import { refuse } from '@/core/errors/refusal';
import { requireActor } from '@/server/auth/actorFrom';
import { fetchExport } from '@/server/exports/jobs';

/** An archive that the caller asked for, once it is made. */
export function GET(request: Request, { params }: { params: Promise<{ exportId: string }> }): Promise<Response> {
  return answering('/api/export', async () => {
    const actor = await requireActor(request.headers);
    const exportId = z.uuid().safeParse((await params).exportId);
    if (!exportId.success) refuse('not-found');
    const { file, name, bytes } = await fetchExport(actor, exportId.data);
    const there = await stat(/* turbopackIgnore: true */ file).catch(() => null);
    if (there?.size !== bytes) refuse('gone', 'The file of this export is no longer there. Export the papers again.');
    const archive = createReadStream(/* turbopackIgnore: true */ file);
    return new Response(Readable.toWeb(archive) as ReadableStream<Uint8Array>, {
      headers: {
        'content-type': 'application/zip',
        'content-length': String(bytes),
        'content-disposition': contentDisposition(`${name}.zip`),
        'cache-control': 'no-store',
        'x-content-type-options': 'nosniff',
      },
    });
  });
}
