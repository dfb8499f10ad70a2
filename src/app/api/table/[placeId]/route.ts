import contentDisposition from 'content-disposition';
import { z } from 'zod';
import { writeCsv } from '@/core/interchange/block';
import { answering } from '@/app/http/answer';
import { readForm } from '@/app/http/body';
import { requireActor, requireSameOrigin } from '@/server/auth/actorFrom';
import { asWorkbook, valuesTable } from '@/server/interchange/table';

interface Parameters {
  readonly params: Promise<{ placeId: string }>;
}

const ids = z
  .string()
  .transform((text) => (text === '' ? [] : text.split(',')))
  .pipe(z.array(z.uuid()).max(50_000));
const asked = z.object({
  form: z.enum(['csv', 'xlsx']),
  /** A mark at the beginning, by which older spreadsheets know UTF-8. */
  mark: z.enum(['yes', 'no']).default('no'),
  /** Papers to take; empty: all at and below the place. */
  papers: ids.default([]),
  /** Columns to take; empty: all. */
  columns: ids.default([]),
});

/** The values of papers as a table, as a form's fields ask for it: what comes back corrected can be brought in again. */
export function POST(request: Request, { params }: Parameters): Promise<Response> {
  return answering('/api/table/[placeId]', async () => {
    requireSameOrigin(request);
    const actor = await requireActor(request.headers);
    const placeId = z.uuid().parse((await params).placeId);
    const { form, mark, papers, columns } = asked.parse(await readForm(request));
    const { name, rows } = await valuesTable(actor, placeId, papers.length === 0 ? undefined : papers, columns);
    const body = form === 'csv' ? writeCsv(rows, mark === 'yes') : new Uint8Array(await asWorkbook(rows));
    return new Response(body, {
      headers: {
        'content-type':
          form === 'csv'
            ? 'text/csv; charset=utf-8'
            : 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
        'content-disposition': contentDisposition(`${name}.${form}`),
        'cache-control': 'no-store',
        'x-content-type-options': 'nosniff',
      },
    });
  });
}
