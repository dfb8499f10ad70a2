import contentDisposition from 'content-disposition';
import { answering } from '@/app/http/answer';
import { requireActor } from '@/server/auth/actorFrom';
import { scheduleCsv } from '@/server/retention/classes';

/** The retention schedule as CSV, for keepers. */
export function GET(request: Request): Promise<Response> {
  return answering('/api/schedule', async () => {
    const actor = await requireActor(request.headers);
    return new Response(await scheduleCsv(actor), {
      headers: {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': contentDisposition('Retention schedule.csv'),
        'cache-control': 'no-store',
        'x-content-type-options': 'nosniff',
      },
    });
  });
}
