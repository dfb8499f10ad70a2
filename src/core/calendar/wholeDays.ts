import ical, { ICalAlarmType, ICalCalendarMethod } from 'ical-generator';
import { dayNumber, isoDay } from './period';

/** An event that takes a whole day. */
export interface WholeDay {
  /** Stable, so that importing the file again updates the event. */
  readonly id: string;
  /** ISO 8601. */
  readonly day: string;
  readonly title: string;
  /** '' for nowhere. */
  readonly where: string;
  readonly address: string;
  /** How often it was changed. */
  readonly revision: number;
  /** So many days before it is announced; 0: not at all. */
  readonly warnDays: number;
}

const secondsADay = 86_400;

/**
 * Writes an iCalendar file (RFC 5545): all-day events (DATE values, the end being the day after, section 3.6.1), with an alarm
 * where they are announced (section 3.6.6).
 * @param product what of Embrin wrote it
 * @param stampedAt when the file is made
 */
export function writeWholeDays(name: string, product: string, days: readonly WholeDay[], stampedAt: Date): string {
  const calendar = ical({ name, prodId: { company: 'Embrin', product }, method: ICalCalendarMethod.PUBLISH });
  for (const { id, day, title, where, address, revision, warnDays } of days) {
    const event = calendar.createEvent({
      id: `${id}@embrin`,
      stamp: stampedAt,
      // A date without a time zone, expressed in UTC.
      start: `${day}T00:00:00.000Z`,
      end: `${isoDay((dayNumber(day) ?? 0) + 1)}T00:00:00.000Z`,
      allDay: true,
      summary: title,
      location: where === '' ? null : where,
      sequence: revision,
      url: address,
    });
    if (warnDays > 0) event.createAlarm({ type: ICalAlarmType.display, trigger: warnDays * secondsADay });
  }
  return calendar.toString();
}
