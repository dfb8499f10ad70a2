import { dueDay, lineInWords, type SummaryTimes } from './summary';

const daily: SummaryTimes = { every: 'daily', hour: 8, weekday: 1 };
const zone = 'Europe/London';

it.each([
  // British Summer Time: 08:00 is 07:00 UTC.
  ['2026-07-14T06:59:59Z', null, null],
  ['2026-07-14T07:00:00Z', null, '2026-07-14'],
  ['2026-07-14T07:00:00Z', '2026-07-13', '2026-07-14'],
  ['2026-07-14T07:00:00Z', '2026-07-14', null],
  ['2026-07-14T23:30:00Z', '2026-07-14', null],
  ['2026-12-14T07:30:00Z', '2026-12-13', null],
  ['2026-12-14T08:00:00Z', '2026-12-13', '2026-12-14'],
])('at %s, after the last of %s, the day is %s', (now, sentDay, day) => {
  expect(dueDay(daily, sentDay, new Date(now), zone)).toBe(day);
});

it('is due weekly on its day only, by the calendar of the library', () => {
  const sunday: SummaryTimes = { every: 'weekly', hour: 0, weekday: 7 };
  // 19 July 2026 is a Sunday; in Auckland it has begun while it is Saturday in London.
  expect(dueDay(sunday, null, new Date('2026-07-18T13:00:00Z'), 'Pacific/Auckland')).toBe('2026-07-19');
  expect(dueDay(sunday, null, new Date('2026-07-18T13:00:00Z'), zone)).toBeNull();
});

it('says one paper by its title and several by their number', () => {
  const line = { verb: 'filed', by: 'Tobias', placeId: 'p', placeName: 'Invoices', at: '', count: 1 } as const;
  const papers = [{ id: '1', title: 'Invoice 7', stamp: 'PDF' as const }];
  expect(lineInWords({ ...line, papers })).toBe('Tobias filed “Invoice 7” in Invoices');
  expect(lineInWords({ ...line, count: 400, papers })).toBe('Tobias filed 400 papers in Invoices');
});
