import ical, { ICalCalendarMethod } from 'ical-generator';
import { isoDay, dayNumber } from '../calendar/period';

/** A meeting as a calendar takes it: a whole day, because meetings here have no hours. */
export interface CalendarMeeting {
  readonly id: string;
  /** ISO 8601. */
  readonly day: string;
  readonly title: string;
  readonly venue: string;
  readonly revision: number;
}

/**
 * Meetings as an iCalendar file (RFC 5545): events of whole days (DATE values, the end being the day after, as its section
 * 3.6.1 has it), each with the same UID always, so that a calendar that takes the file again changes what it has.
 * @param stampedAt when the file is made
 */
export function writeCalendar(
  name: string,
  meetings: readonly CalendarMeeting[],
  address: (meetingId: string) => string,
  stampedAt: Date,
): string {
  const calendar = ical({
    name,
    prodId: { company: 'Embrin', product: 'Meetings' },
    method: ICalCalendarMethod.PUBLISH,
  });
  for (const { id, day, title, venue, revision } of meetings)
    calendar.createEvent({
      id: `${id}@embrin`,
      stamp: stampedAt,
      // A day without a zone: taken apart and put together in UTC, in which it is the same day.
      start: `${day}T00:00:00.000Z`,
      end: `${isoDay((dayNumber(day) ?? 0) + 1)}T00:00:00.000Z`,
      allDay: true,
      summary: title,
      location: venue === '' ? null : venue,
      sequence: revision,
      url: address(id),
    });
  return calendar.toString();
}
