import { sql } from 'drizzle-orm';
import { answering, json } from '@/app/http/answer';
import { db } from '@/server/db/client';

/** Whether this process serves and reaches its database. */
export function GET(): Promise<Response> {
  return answering('/api/health', async () => {
    await db().execute(sql`select 1`);
    return json({ serving: true });
  });
}
