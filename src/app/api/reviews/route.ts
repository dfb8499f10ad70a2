import contentDisposition from 'content-disposition';
import { answering } from '@/app/http/answer';
import { requireActor } from '@/server/auth/actorFrom';
import { calendarOfReviews } from '@/server/reviews/mine';

/** The caller's reviews as an iCalendar file (RFC 5545). */
export function GET(request: Request): Promise<Response> {
  return answering('/api/reviews', async () => {
    const actor = await requireActor(request.headers);
    return new Response(await calendarOfReviews(actor), {
      headers: {
        'content-type': 'text/calendar; charset=utf-8',
        'content-disposition': contentDisposition('Reviews.ics'),
        'cache-control': 'no-store',
        'x-content-type-options': 'nosniff',
      },
    });
  });
}
