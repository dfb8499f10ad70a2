import contentDisposition from 'content-disposition';
import { z } from 'zod';
import { writeCsv } from '@/core/interchange/block';
import { writeSkos } from '@/core/columns/skos';
import { termTable } from '@/core/columns/termTable';
import { refuse } from '@/core/errors/refusal';
import { answering } from '@/app/http/answer';
import { requireActor } from '@/server/auth/actorFrom';
import { listOf, plainTerms } from '@/server/columns/lists';

interface Parameters {
  readonly params: Promise<{ listId: string }>;
}

const asked = z.enum(['csv', 'skos']);

/** A controlled list as a file: CSV, or SKOS in JSON-LD. */
export function GET(request: Request, { params }: Parameters): Promise<Response> {
  return answering('/api/lists/[listId]', async () => {
    const actor = await requireActor(request.headers);
    const { listId } = await params;
    const form = asked.safeParse(new URL(request.url).searchParams.get('as'));
    if (!form.success || !z.uuid().safeParse(listId).success) refuse('not-found');
    const list = await listOf(actor, listId);
    const [body, type, ending] =
      form.data === 'csv'
        ? [writeCsv(termTable(plainTerms(list)), true), 'text/csv; charset=utf-8', 'csv']
        : [JSON.stringify(writeSkos(list.name, plainTerms(list)), null, 2), 'application/ld+json', 'jsonld'];
    return new Response(body, {
      headers: {
        'content-type': type,
        'content-disposition': contentDisposition(`${list.name}.${ending}`),
        'cache-control': 'no-store',
        'x-content-type-options': 'nosniff',
      },
    });
  });
}
