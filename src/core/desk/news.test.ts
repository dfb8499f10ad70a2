import { newsOf, type PaperChange } from './news';

const start = Date.parse('2026-07-14T12:00:00.000Z');
let counter = 0;
/** A change so many minutes ago. */
const change = (minutesAgo: number, over: Partial<PaperChange> = {}): PaperChange => ({
  id: String((counter += 1)),
  title: `Paper ${counter}`,
  stamp: 'PDF',
  placeId: 'p',
  placeName: 'Invoices',
  by: 'Tobias',
  at: new Date(start - minutesAgo * 60_000).toISOString(),
  verb: 'filed',
  ...over,
});
const said = (changes: readonly PaperChange[], most = 20): string[] =>
  newsOf(changes, most).map(({ by, verb, count, placeName }) => `${by} ${verb} ${count} in ${placeName}`);

it('says what one person filed in one place at one time in one line', () => {
  const many = Array.from({ length: 400 }, (_, at) => change(at / 60));
  const [line, ...others] = newsOf(many, 20);
  expect(others).toEqual([]);
  expect(line).toMatchObject({ count: 400, at: many[0]?.at, papers: many.slice(0, 3).map(({ id }) => ({ id })) });
});

it('keeps apart people, places, what was done, and times more than ten minutes apart', () => {
  expect(
    said([
      change(0),
      change(1, { by: 'Oona' }),
      change(2, { verb: 'changed' }),
      change(3, { placeId: 'q', placeName: 'Contracts' }),
      change(10),
      change(21),
    ]),
  ).toEqual([
    'Tobias filed 2 in Invoices',
    'Oona filed 1 in Invoices',
    'Tobias changed 1 in Invoices',
    'Tobias filed 1 in Contracts',
    'Tobias filed 1 in Invoices',
  ]);
});

it('goes on counting a line that is there when there are as many lines as fit', () => {
  expect(said([change(0), change(1, { by: 'Oona' }), change(2, { by: 'Petra' }), change(3)], 2)).toEqual([
    'Tobias filed 2 in Invoices',
    'Oona filed 1 in Invoices',
  ]);
});

it('has none of nothing', () => {
  expect(newsOf([], 5)).toEqual([]);
});
