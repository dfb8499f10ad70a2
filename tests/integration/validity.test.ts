import { plainFields } from '@/core/columns/contract';
import { changeColumn, defineColumn } from '@/server/columns/define';
import { setValues } from '@/server/columns/setValues';
import { allColumns } from '@/server/columns/read';
import { db } from '@/server/db/client';
import { gapsOf } from '@/server/expected/gaps';
import { openRack } from '@/server/expected/rack';
import { dropLibrary } from '../library';
import { beginExpecting, file, find, keeper, now, series, slots } from './expecting';

let until: string;
let from: string;

beforeAll(async () => {
  await beginExpecting();
  const define = (name: string, meaning: 'validFrom' | 'validUntil') =>
    defineColumn(keeper, { ...plainFields, placeId: series, name, type: 'date', meaning });
  until = (await define('Valid until', 'validUntil')).id;
  from = (await define('Valid from', 'validFrom')).id;
});
afterAll(dropLibrary);

/** The moment of these tests is 15 September 2026. */
const terms = async () => find(await slots(keeper), 'Terms of reference', null);
const say = (id: string, values: Record<string, string | null>) => setValues(keeper, { documentIds: [id], values });

it('an expected paper that runs out is told of sixty days before, and is missing from the day after its last', async () => {
  const id = await file('Terms of reference', await terms());
  expect(await terms()).toMatchObject({ state: 'met', runsOut: null });
  await say(id, { [until]: '2026-11-15' });
  expect(await terms()).toMatchObject({ state: 'met', runsOut: null });
  await say(id, { [until]: '2026-11-14' });
  expect(await terms()).toMatchObject({ state: 'ending', runsOut: '2026-11-14', paper: { id } });
  await say(id, { [until]: '2026-09-15' });
  expect(await terms()).toMatchObject({ state: 'ending', runsOut: '2026-09-15' });
  await say(id, { [until]: '2026-09-14' });
  expect(await terms()).toMatchObject({ state: 'gap', runsOut: '2026-09-14', paper: null });
  const rack = await now(() => openRack(keeper, { seriesId: series }));
  expect(rack.rows.find(({ name }) => name === 'Board')?.squares).toBe('g');
  const { gaps } = await now(() => gapsOf(keeper, { placeId: null }));
  expect(gaps.filter(({ name, dossier }) => name === 'Terms of reference' && dossier === 'Board')).toHaveLength(1);
  // Another that is valid fills the square again.
  const newer = await file('Terms of reference 2026', await terms());
  expect(await terms()).toMatchObject({ state: 'met', paper: { id: newer } });
  // One that is valid only later does not yet.
  await say(newer, { [from]: '2026-10-01' });
  expect(await terms()).toMatchObject({ state: 'gap' });
  await say(newer, { [from]: '2026-09-15' });
  expect(await terms()).toMatchObject({ state: 'met' });
});

it('a year that is over keeps what it had, and so does a meeting', async () => {
  const accounts = await file('Accounts 2025', find(await slots(keeper), 'Accounts', 2025));
  const agenda = await file('Agenda', find(await slots(keeper), 'Agenda', '2026-05-12'));
  for (const id of [accounts, agenda]) await say(id, { [until]: '2026-06-30' });
  expect(find(await slots(keeper), 'Accounts', 2025)).toMatchObject({ state: 'met', runsOut: null });
  expect(find(await slots(keeper), 'Agenda', '2026-05-12')).toMatchObject({ state: 'met', runsOut: null });
  const thisYear = await file('Accounts 2026', find(await slots(keeper), 'Accounts', 2026));
  await say(thisYear, { [until]: '2026-06-30' });
  expect(find(await slots(keeper), 'Accounts', 2026)).toMatchObject({ state: 'ahead', runsOut: '2026-06-30' });
});

it('only columns of dates say anything of validity', async () => {
  const { id } = await defineColumn(keeper, {
    ...plainFields,
    placeId: series,
    name: 'Number',
    type: 'number',
    meaning: 'validUntil',
  });
  const meaningOf = async (columnId: string) =>
    (await allColumns(db())).find((column) => column.id === columnId)?.meaning;
  expect(await meaningOf(id)).toBe('none');
  const { listId: _listId, ...fields } = plainFields;
  await changeColumn(keeper, { ...fields, columnId: until, name: 'Valid until', revision: 0 });
  expect(await meaningOf(until)).toBe('none');
  // Without the meaning the date is only a date.
  expect(find(await slots(keeper), 'Accounts', 2026)).toMatchObject({ state: 'met', runsOut: null });
});
