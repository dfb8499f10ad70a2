import { sql } from 'drizzle-orm';
import { json, problemResponse } from '@/app/http/answer';
import { db } from '@/server/db/client';

/** Whether this process serves and reaches its database. Asked every few seconds, so that only faults are logged. */
export async function GET(): Promise<Response> {
  try {
    await db().execute(sql`select 1`);
    return json({ serving: true });
  } catch (error) {
    return problemResponse(error, '/api/health');
  }
}
