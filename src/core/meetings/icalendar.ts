import ical, { ICalCalendarMethod } from 'ical-generator';
import { isoDay, dayNumber } from '../calendar/period';

/** A meeting for a calendar: a whole day, since meetings have no times. */
export interface CalendarMeeting {
  readonly id: string;
  /** ISO 8601. */
  readonly day: string;
  readonly title: string;
  readonly venue: string;
  readonly revision: number;
}

/**
 * Writes meetings as an iCalendar file (RFC 5545): all-day events (DATE values, the end being the day after, section
 * 3.6.1) with stable UIDs, so that importing the file again updates them.
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
      // A date without a time zone, expressed in UTC.
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
