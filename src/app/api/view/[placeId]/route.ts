import contentDisposition from 'content-disposition';
import { z } from 'zod';
import { answering } from '@/app/http/answer';
import { readForm } from '@/app/http/body';
import { viewSpecSchema } from '@/core/views/spec';
import { writeCsv } from '@/core/interchange/block';
import { requireActor, requireSameOrigin } from '@/server/auth/actorFrom';
import { asWorkbook } from '@/server/interchange/table';
import { leftOutInWords } from '@/server/documents/content';
import { viewTable } from '@/server/views/download';

interface Parameters {
  readonly params: Promise<{ placeId: string }>;
}

const taken = viewSpecSchema
  .pick({ conditions: true, groupings: true, sorts: true, below: true })
  .extend({ columns: z.array(z.string().max(60)).max(60), filter: z.string().max(200), name: z.string().max(400) });
const asked = z.object({
  form: z.enum(['csv', 'xlsx']),
  view: z
    .string()
    .max(200_000)
    .transform((text, context) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        context.addIssue('The view cannot be read.');
        return z.NEVER;
      }
    })
    .pipe(taken),
});

/** What a view shows as a file: its groups and papers as rows, its columns as the person chose them. */
export function POST(request: Request, { params }: Parameters): Promise<Response> {
  return answering('/api/view/[placeId]', async () => {
    requireSameOrigin(request);
    const actor = await requireActor(request.headers);
    const placeId = z.uuid().parse((await params).placeId);
    const { form, view } = asked.parse(await readForm(request));
    const { rows, leftOut } = await viewTable(actor, { ...view, placeId });
    const body = form === 'csv' ? writeCsv(rows) : new Uint8Array(await asWorkbook(rows));
    return new Response(body, {
      headers: {
        'content-type':
          form === 'csv'
            ? 'text/csv; charset=utf-8'
            : 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
        'content-disposition': contentDisposition(`${view.name}${leftOutInWords(leftOut)}.${form}`),
        'cache-control': 'no-store',
        'x-content-type-options': 'nosniff',
      },
    });
  });
}
