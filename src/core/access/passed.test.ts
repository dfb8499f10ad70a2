import { agoOf, byAgo } from './passed';

const now = '2026-07-14T09:00:00Z';

it.each([
  ['2026-07-14T00:10:00Z', 'Europe/London', 'Today'],
  ['2026-07-13T23:30:00Z', 'Europe/London', 'Today'],
  ['2026-07-13T23:30:00Z', 'UTC', 'In the last week'],
  ['2026-07-15T09:00:00Z', 'UTC', 'Today'],
  ['2026-07-08T12:00:00Z', 'UTC', 'In the last week'],
  ['2026-07-07T12:00:00Z', 'UTC', 'In the last month'],
  ['2026-06-15T12:00:00Z', 'UTC', 'In the last month'],
  ['2026-06-14T12:00:00Z', 'UTC', 'Earlier'],
] as const)('%s is, in %s, of the group “%s”', (at, timeZone, ago) => {
  expect(agoOf(at, now, timeZone)).toBe(ago);
});

it('groups rows without losing or reordering any, and leaves empty groups out', () => {
  const rows = ['2026-07-14T08:00:00Z', '2026-01-02T08:00:00Z', '2026-07-14T07:00:00Z'].map((at) => ({ at }));
  expect(byAgo(rows, now, 'UTC')).toEqual([
    { ago: 'Today', rows: [rows[0], rows[2]] },
    { ago: 'Earlier', rows: [rows[1]] },
  ]);
});
