import contentDisposition from 'content-disposition';
import { z } from 'zod';
import { answering } from '@/app/http/answer';
import { requireActor } from '@/server/auth/actorFrom';
import { separatorSheet } from '@/server/intake/separatorSheet';

const query = z.object({
  /** Of the dossier into which the paper after the sheet goes. */
  reference: z
    .string()
    .regex(/^[A-Za-z0-9][A-Za-z0-9./-]{0,39}$/u)
    .nullish(),
});

/** A separator sheet, to be printed and laid between papers before they are scanned. */
export function GET(request: Request): Promise<Response> {
  return answering('/api/separator', async () => {
    await requireActor(request.headers);
    const { reference = null } = query.parse(Object.fromEntries(new URL(request.url).searchParams));
    return new Response((await separatorSheet(reference)) as Uint8Array<ArrayBuffer>, {
      headers: {
        'content-type': 'application/pdf',
        'content-disposition': contentDisposition('Separator sheet.pdf', { type: 'inline' }),
        'cache-control': 'no-store',
        'x-content-type-options': 'nosniff',
      },
    });
  });
}
