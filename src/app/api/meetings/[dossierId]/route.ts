import contentDisposition from 'content-disposition';
import { z } from 'zod';
import { refuse } from '@/core/errors/refusal';
import { answering } from '@/app/http/answer';
import { requireActor } from '@/server/auth/actorFrom';
import { calendarOf } from '@/server/meetings/meetings';

interface Parameters {
  readonly params: Promise<{ dossierId: string }>;
}

/** The meetings of a dossier as an iCalendar file (RFC 5545). */
export function GET(request: Request, { params }: Parameters): Promise<Response> {
  return answering('/api/meetings/[dossierId]', async () => {
    const actor = await requireActor(request.headers);
    const { dossierId } = await params;
    if (!z.uuid().safeParse(dossierId).success) refuse('not-found');
    const { name, text } = await calendarOf(actor, dossierId);
    return new Response(text, {
      headers: {
        'content-type': 'text/calendar; charset=utf-8',
        'content-disposition': contentDisposition(`Meetings of ${name}.ics`),
        'cache-control': 'no-store',
        'x-content-type-options': 'nosniff',
      },
    });
  });
}
