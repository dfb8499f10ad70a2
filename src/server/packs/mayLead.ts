import { and, eq } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import type { Reader } from '../db/client';
import { attendee } from '../db/schema';
import type { Actor } from '../gate/actor';

/** Whether others may follow somebody through a pack: a member who attends its meeting, or who may change it. */
export async function mayLead(
  reader: Reader,
  actor: Actor,
  { meetingId, held }: { readonly meetingId: string | null; readonly held: number },
): Promise<boolean> {
  if (actor.seenBy || meetingId === null) return false;
  if (has(held, 'amend')) return true;
  const attends = and(
    eq(attendee.meetingId, meetingId),
    eq(attendee.personId, actor.personId),
    eq(attendee.part, 'member'),
  );
  return (await reader.$count(attendee, attends)) > 0;
}
