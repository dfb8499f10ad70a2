import { z } from 'zod';
import { refuse } from '@/core/errors/refusal';
import { answering } from '@/app/http/answer';
import { requireActor } from '@/server/auth/actorFrom';
import { pictureFor } from '@/server/documents/cover';

/** The picture of a paper: its own cover, or its first page. */
export function GET(request: Request, { params }: { params: Promise<{ documentId: string }> }): Promise<Response> {
  return answering('/api/paper/[documentId]/picture', async () => {
    const actor = await requireActor(request.headers);
    const documentId = z.uuid().safeParse((await params).documentId).data ?? refuse('not-found');
    const { picture, mark } = await pictureFor(actor, documentId);
    return new Response(new Uint8Array(picture), {
      headers: {
        'content-type': 'image/jpeg',
        'cache-control': 'private, max-age=60',
        etag: `"${mark}-first"`,
        'x-content-type-options': 'nosniff',
      },
    });
  });
}
