import { and, asc, desc, eq, gte, inArray, lte } from 'drizzle-orm';
import type { ComingMeeting } from '@/core/agenda/contract';
import { dayAt, isoDay } from '@/core/calendar/period';
import { asks } from '../acts/operation';
import { now } from '../base/clock';
import { db } from '../db/client';
import { agenda, attendee, meeting, pack, packIssue, place } from '../db/schema';
import { ownOf, placeAllows } from '../gate/visible';
import { librarySettings } from '../library/settings';

/** So many days ahead a desk looks. */
const daysAhead = 60;
const mostMeetings = 20;

/** The meetings of the next weeks to which the caller is asked, with the newest issue of each one's packs. */
export const meetingsToCome = asks('meetings.mine', async (actor): Promise<readonly ComingMeeting[]> => {
  const personId = ownOf(actor);
  if (personId === null) return [];
  const { timeZone } = await librarySettings();
  const today = dayAt(now().getTime(), timeZone);
  const rows = await db()
    .select({
      meetingId: meeting.id,
      title: meeting.title,
      day: meeting.day,
      venue: meeting.venue,
      startsAt: agenda.startsAt,
      dossierName: place.name,
      answer: attendee.answer,
    })
    .from(attendee)
    .innerJoin(meeting, eq(meeting.id, attendee.meetingId))
    .innerJoin(place, eq(place.id, meeting.dossierId))
    .leftJoin(agenda, eq(agenda.meetingId, meeting.id))
    .where(
      and(
        eq(attendee.personId, personId),
        gte(meeting.day, isoDay(today)),
        lte(meeting.day, isoDay(today + daysAhead)),
        placeAllows(actor, 'see'),
      ),
    )
    .orderBy(asc(meeting.day), asc(meeting.id))
    .limit(mostMeetings);
  if (rows.length === 0) return [];
  const issues = await db()
    .select({ id: packIssue.id, called: packIssue.called, meetingId: pack.meetingId })
    .from(packIssue)
    .innerJoin(pack, eq(pack.id, packIssue.packId))
    .where(
      and(
        eq(packIssue.state, 'done'),
        inArray(
          pack.meetingId,
          rows.map(({ meetingId }) => meetingId),
        ),
      ),
    )
    .orderBy(desc(packIssue.issuedAt));
  return rows.map((row) => {
    const found = issues.find(({ meetingId }) => meetingId === row.meetingId);
    return { ...row, issue: found ? { id: found.id, called: found.called } : null };
  });
});
