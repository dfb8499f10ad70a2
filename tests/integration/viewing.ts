/** A dossier that an auditor and a reader may open, and views of it. */
import { plainFields } from '@/core/columns/contract';
import { Refusal } from '@/core/errors/refusal';
import { plainView } from '@/core/views/spec';
import type { SavedView } from '@/core/views/saved';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { defineColumn } from '@/server/columns/define';
import { changeGroup, createGroup } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { openView } from '@/server/views/open';
import { viewsAt } from '@/server/views/saved';
import { freshLibrary, furnished, inGroup, newcomer, open, plainQuestion } from '../library';

export let keeper: Actor;
export let auditor: Actor;
export let reader: Actor;
export let home: Awaited<ReturnType<typeof furnished>>;
export let auditors: string;
export let remark: string;

/** Founds the library of a test file. */
export async function beginViewing(): Promise<void> {
  keeper = await freshLibrary();
  auditor = await newcomer(keeper, 'Sunniva Dale');
  reader = await newcomer(keeper, 'Rea Der');
  home = await furnished(keeper);
  for (const who of [auditor, reader]) await openAlso(who);
  auditors = (await createGroup(keeper, { name: 'Auditors' })).id;
  await changeGroup(keeper, { groupId: auditors, name: 'Auditors', terms: inGroup(auditor), revision: 0 });
  remark = (await defineColumn(keeper, { ...plainFields, placeId: home.series.id, name: 'Remark', type: 'text' })).id;
}

/** Opens the dossier to one more reader; each has a series of steps of their own on the way. */
export async function openAlso(who: Actor): Promise<void> {
  if (who === auditor) await open(keeper, home.dossier.id, who, 'reader');
  else await open(keeper, home.series.id, who, 'reader');
}

export const fields = {
  name: 'For the auditor',
  purpose: '',
  audience: 'all' as SavedView['audience'],
  groupIds: [] as string[],
  opensHere: false,
  spec: plainView,
};
export const refusedAs = (asked: Promise<unknown>): Promise<string> =>
  asked.then(
    () => 'answered',
    (error: unknown) => (error instanceof Refusal ? error.issue.kind : String(error)),
  );
export const namesAt = async (who: Actor, placeId: string): Promise<string[]> =>
  (await viewsAt(who, { placeId })).views.map((each) => each.name);
export const titles = async (who: Actor, placeId: string, more: object = {}): Promise<string[]> =>
  (await openView(who, { ...plainQuestion, placeId, ...more })).rows.map((row) => row.title);

export async function folder(name: string, papers: readonly string[] = []): Promise<{ id: string; ids: string[] }> {
  const { id } = await createFolder(keeper, { parentId: home.dossier.id, name });
  const ids: string[] = [];
  for (const title of papers) ids.push(await fileBuffer(keeper, id, `${title}.txt`, Buffer.from(`${name} ${title}\n`)));
  return { id, ids };
}
