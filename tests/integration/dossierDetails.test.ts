import { eq } from 'drizzle-orm';
import type { Actor } from '@/server/gate/actor';
import { db } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { detailsOf, fieldsOf, setDetails, setFields } from '@/server/dossiers/details';
import { makeDossiers } from '@/server/dossiers/dossiers';
import { gapsOf } from '@/server/expected/gaps';
import { askForExpected } from '@/server/expected/says';
import { expectedOf } from '@/server/expected/slots';
import { createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { dropLibrary, newcomer, refusedAs } from '../library';
import { beginExpecting, now, keeper, reader, series, board, id, slots, find, named } from './expecting';

beforeAll(beginExpecting);
afterAll(dropLibrary);

it('the details of dossiers are read with care, kept under conflict, and decide who is responsible', async () => {
  const { revision } = await fieldsOf(keeper, { seriesId: series });
  const fields = [
    { id: id(31), name: 'Secretary', kind: 'officer' as const, choices: [] },
    { id: id(32), name: 'Began', kind: 'started' as const, choices: [] },
    { id: id(33), name: 'Standing', kind: 'choice' as const, choices: ['Sitting', 'Dissolved'] },
  ];
  expect(await refusedAs(setFields(reader, { seriesId: series, fields, revision }))).toBe('not-allowed');
  await setFields(keeper, { seriesId: series, fields, revision });
  expect(await refusedAs(setFields(keeper, { seriesId: series, fields, revision }))).toBe('conflict');
  const before = await detailsOf(keeper, { dossierId: board });
  const put = (details: Record<string, string>, at = before.revision) =>
    setDetails(keeper, { dossierId: board, details, revision: at });
  expect(await refusedAs(put({ [id(33)]: 'Asleep' }))).toBe('invalid');
  expect(await refusedAs(put({ [id(31)]: 'Nobody Known' }))).toBe('invalid');
  await put({ [id(31)]: 'rea der', [id(32)]: '1 June 2026', [id(33)]: 'sitting' });
  expect(await refusedAs(put({ [id(31)]: '' }))).toBe('conflict');
  const after = await detailsOf(reader, { dossierId: board });
  expect(after).toMatchObject({
    details: { [id(31)]: reader.personId, [id(32)]: '2026-06-01', [id(33)]: 'Sitting' },
    names: { [reader.personId]: 'Rea Der' },
    mayChange: false,
  });
  // A pasted list brings them too.
  await makeDossiers(keeper, { seriesId: series, text: 'Name,Standing\nWorks,Dissolved', onlyGood: false });
  const [works] = await db().select({ details: place.details }).from(place).where(eq(place.name, 'Works'));
  expect(works?.details).toEqual({ [id(33)]: 'Dissolved' });
  const { gaps } = await now(() => gapsOf(keeper, { placeId: board }));
  expect(new Set(gaps.map((gap) => gap.officer))).toEqual(new Set(['Rea Der']));
  expect((await now(() => expectedOf(keeper, { dossierId: board }))).officer?.name).toBe('Rea Der');
  expect(
    await askForExpected(keeper, {
      ...named(find(await slots(keeper), 'Agenda', '2026-07-14')),
      personId: reader.personId,
      words: 'By Friday',
    }),
  ).toEqual({ sent: true });
  // A message would tell of a dossier that is not open to whom it goes to.
  const stranger = await newcomer(keeper, 'Stran Ger');
  const ask = (actor: Actor, personId: string) =>
    refusedAs(askForExpected(actor, { ...named(agenda), personId, words: '' }));
  const agenda = find(await slots(keeper), 'Agenda', '2026-07-14');
  expect(await ask(keeper, stranger.personId)).toBe('invalid');
  expect(await ask(reader, keeper.personId)).toBe('not-allowed');
});

it('a new dossier comes with its details, or not at all', async () => {
  const seriesId = (await createSeries(keeper, { name: 'Wardens', referencePattern: null })).id;
  const fields = [{ id: id(41), name: 'E-mail', kind: 'email' as const, choices: [] }];
  await setFields(keeper, { seriesId, fields, revision: 0 });
  const make = (email: string) =>
    createDossier(keeper, { seriesId, name: 'North', reference: null, details: { [id(41)]: email } });
  expect(await refusedAs(make('nobody at all'))).toBe('invalid');
  expect(await db().$count(place, eq(place.parentId, seriesId))).toBe(0);
  const { id: dossierId } = await make('warden@north.example');
  expect((await detailsOf(keeper, { dossierId })).details).toEqual({ [id(41)]: 'warden@north.example' });
});
