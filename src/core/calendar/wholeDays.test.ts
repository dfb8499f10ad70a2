import ICAL from 'ical.js';
import { writeWholeDays, type WholeDay } from './wholeDays';

const meeting = (day: string, more: Partial<WholeDay> = {}): WholeDay => ({
  id: `id-${day}`,
  day,
  title: 'Full board',
  where: 'Harbour office',
  address: 'http://127.0.0.1/place/id',
  revision: 0,
  warnDays: 0,
  ...more,
});
const write = (...meetings: WholeDay[]): string =>
  writeWholeDays('Full board', 'Meetings', meetings, new Date('2026-07-01T12:00:00Z'));

/** What another reader of RFC 5545 makes of the file: a reference library of its own. */
function read(text: string) {
  const calendar = new ICAL.Component(ICAL.parse(text) as unknown[]);
  return calendar.getAllSubcomponents('vevent').map((each) => {
    const event = new ICAL.Event(each);
    return {
      uid: event.uid,
      start: event.startDate.toString(),
      end: event.endDate.toString(),
      isDay: event.startDate.isDate,
      summary: event.summary,
      location: event.location,
      sequence: event.sequence,
    };
  });
}

it('writes whole days that a reference reader of RFC 5545 reads back, 29 February and a year’s last day among them', () => {
  expect(
    read(write(meeting('2026-07-14', { revision: 2 }), meeting('2028-02-29', { where: '' }), meeting('2026-12-31'))),
  ).toEqual([
    {
      uid: 'id-2026-07-14@embrin',
      start: '2026-07-14',
      end: '2026-07-15',
      isDay: true,
      summary: 'Full board',
      location: 'Harbour office',
      sequence: 2,
    },
    expect.objectContaining({ start: '2028-02-29', end: '2028-03-01', location: null }) as unknown,
    expect.objectContaining({ start: '2026-12-31', end: '2027-01-01' }) as unknown,
  ]);
});

it('keeps words with commas, semicolons, line ends and letters beyond ASCII, folded at 75 octets (RFC 5545, 3.1)', () => {
  const title = `Board; budget, “fees” \\ ${'Ämter und Überblick '.repeat(12)}`;
  const text = write(meeting('2026-07-14', { title: title.trim() }));
  expect(read(text)[0]?.summary).toBe(title.trim());
  expect(text.split('\r\n').every((line) => Buffer.byteLength(line) <= 75)).toBe(true);
  expect(text.startsWith('BEGIN:VCALENDAR\r\nVERSION:2.0\r\n')).toBe(true);
});

it('announces a day with an alarm so many days before', () => {
  const calendar = new ICAL.Component(
    ICAL.parse(write(meeting('2026-07-14', { warnDays: 30 }), meeting('2026-07-15'))) as unknown[],
  );
  const alarms = calendar
    .getAllSubcomponents('vevent')
    .map((event) => event.getAllSubcomponents('valarm').map((alarm) => String(alarm.getFirstPropertyValue('trigger'))));
  expect(alarms).toEqual([['-P30D'], []]);
});
