/** Things to describe in a test file's one library, made with few words. */
import type { Values } from '@/core/columns/model';
import { plainFields, type ColumnFields } from '@/core/columns/contract';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { defineColumn } from '@/server/columns/define';
import { setGiven } from '@/server/columns/given';
import { createList, listOf } from '@/server/columns/lists';
import { docketOf } from '@/server/documents/docket';
import { createFolder } from '@/server/places/create';
import { openPlace } from '@/server/places/open';
import { freshLibrary, furnished, newcomer } from '../library';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

/** The library, with a keeper and two people to whom nothing is open yet. */
export async function beginDescribing() {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  const officer = await newcomer(keeper, 'Off Icer');
  const reader = await newcomer(keeper, 'Rea Der');
  return { keeper, home, officer, reader };
}

let counter = 0;
export const define = async (type: ColumnFields['type'], placeId: string, more: Partial<ColumnFields> = {}) =>
  (await defineColumn(keeper, { ...plainFields, name: `${type} ${(counter += 1)}`, type, placeId, ...more })).id;

export const folder = (name: string, parentId = home.year.id) =>
  createFolder(keeper, { parentId, name: `${name} ${(counter += 1)}` });
export const paper = (placeId: string, name = 'paper', actor = keeper) =>
  fileBuffer(actor, placeId, `${name}.txt`, Buffer.from(`${name} ${(counter += 1)}\n`));
export const shown = async (id: string): Promise<Values> => (await docketOf(keeper, { documentId: id })).values;
export const revisionOf = async (placeId: string) => (await openPlace(keeper, { placeId })).place.revision;
export const give = async (placeId: string, given: Parameters<typeof setGiven>[1]['given']) =>
  setGiven(keeper, { placeId, given, revision: await revisionOf(placeId) });
export const statusList = async (names: string[]) => {
  const { id } = await createList(keeper, { name: `List ${(counter += 1)}`, terms: names });
  const { terms } = await listOf(keeper, id);
  return { id, term: (name: string) => terms.find((each) => each.name === name)?.id ?? '' };
};
