import { fileBuffer } from '@/demo/file';
import { setAccess } from '@/server/access/change';
import { disposePapers, putBackPapers } from '@/server/disposal/dispose';
import type { Actor } from '@/server/gate/actor';
import { papersInHand, pickUp, putDown } from '@/server/hand/hand';
import { dropLibrary, freshLibrary, furnished, newcomer, open, refusedAs } from '../library';

let keeper: Actor;
let reader: Actor;
let openIds: string[];
let closedId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  const [first, second] = [await furnished(keeper, 'Open'), await furnished(keeper, 'Closed')];
  await open(keeper, first.series.id, reader, 'reader');
  const file = (placeId: string, name: string) => fileBuffer(keeper, placeId, `${name}.txt`, Buffer.from(name));
  openIds = [await file(first.year.id, 'one'), await file(first.year.id, 'two'), await file(first.year.id, 'three')];
  closedId = await file(second.year.id, 'kept');
});
afterAll(dropLibrary);

const inHand = async (actor: Actor): Promise<string[]> => (await papersInHand(actor)).map(({ title }) => title);

it('is kept for one person, in the order in which it was picked up, once however often', async () => {
  const [one = '', two = '', three = ''] = openIds;
  await pickUp(reader, { documentIds: [three] });
  await pickUp(reader, { documentIds: [one] });
  await Promise.all([pickUp(reader, { documentIds: [two] }), pickUp(reader, { documentIds: [two, one] })]);
  expect(await inHand(reader)).toEqual(['three', 'one', 'two']);
  expect(await inHand(keeper)).toEqual([]);
  await putDown(reader, { documentIds: [one] });
  expect(await inHand(reader)).toEqual(['three', 'two']);
  await putDown(reader, { documentIds: null });
  expect(await inHand(reader)).toEqual([]);
});

it('takes nothing that is kept from a person, and then none of the rest', async () => {
  const made = '00000000-0000-4000-8000-000000000000';
  for (const id of [closedId, made])
    expect(await refusedAs(pickUp(reader, { documentIds: [...openIds, id] }))).toBe('not-found');
  expect(await inHand(reader)).toEqual([]);
});

it('lets go of what is no longer open, and of what was disposed of until it is back', async () => {
  const [one = '', two = ''] = openIds;
  await pickUp(reader, { documentIds: [one, two] });
  await disposePapers(keeper, { documentIds: [one] });
  expect(await inHand(reader)).toEqual(['two']);
  await putBackPapers(keeper, { documentIds: [one] });
  expect((await inHand(reader)).sort()).toEqual(['one', 'two']);
  await setAccess(keeper, {
    on: { kind: 'paper', id: two },
    follows: false,
    revision: 0,
    message: null,
    grants: [],
  });
  expect(await inHand(reader)).toEqual(['one']);
});

it('is not told to someone who looks as another', async () => {
  await pickUp(keeper, { documentIds: openIds });
  const seeing = { ...keeper, seenBy: { scopes: new Map(), byOpening: new Set<string>() } } as unknown as Actor;
  expect(await papersInHand(seeing)).toEqual([]);
  await expect(putDown(seeing, { documentIds: null })).rejects.toThrow();
  expect(await inHand(keeper)).toHaveLength(3);
});
