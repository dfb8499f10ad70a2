import { sql } from 'drizzle-orm';

/** Whether a pack of the meeting of a row of `agenda` is issued. */
export const isIssued = sql<boolean>`exists (
  select from pack join pack_issue on pack_issue.pack_id = pack.id
  where pack.meeting_id = "agenda"."meeting_id" and pack_issue.state = 'done')`;
