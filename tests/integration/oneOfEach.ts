import { plainFields } from '@/core/columns/contract';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { defineColumn } from '@/server/columns/define';
import { createList, listOf } from '@/server/columns/lists';
import { createLabel } from '@/server/labels/labels';
import { createGroup } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { furnished } from '../library';

/** Ids that an operation can be called with: all real, or all made up. */
export interface Ids {
  readonly place: string;
  readonly series: string;
  readonly other: string;
  readonly paper: string;
  readonly column: string;
  readonly list: string;
  readonly term: string;
  readonly label: string;
  readonly person: string;
  readonly group: string;
  readonly upload: string;
  readonly view: string;
  readonly session: string;
  readonly token: string;
  readonly link: string;
  readonly meeting: string;
  readonly agenda: string;
  readonly agendaItem: string;
  readonly agendaPaper: string;
  readonly outcome: string;
  readonly attendee: string;
  readonly pack: string;
  readonly packEntry: string;
  readonly issue: string;
  readonly arrival: string;
  readonly filingRule: string;
  readonly wayIn: string;
  readonly entry: number;
}

export const made: Ids = {
  place: '00000000-0000-4000-8000-000000000001',
  series: '00000000-0000-4000-8000-000000000002',
  other: '00000000-0000-4000-8000-000000000003',
  paper: '00000000-0000-4000-8000-000000000004',
  column: '00000000-0000-4000-8000-000000000005',
  list: '00000000-0000-4000-8000-000000000006',
  term: '00000000-0000-4000-8000-000000000007',
  label: '00000000-0000-4000-8000-000000000008',
  person: '00000000-0000-4000-8000-000000000009',
  group: '00000000-0000-4000-8000-00000000000a',
  upload: '00000000-0000-4000-8000-00000000000b',
  view: '00000000-0000-4000-8000-00000000000d',
  session: '00000000-0000-4000-8000-00000000000e',
  token: '00000000-0000-4000-8000-00000000000f',
  link: '00000000-0000-4000-8000-000000000010',
  meeting: '00000000-0000-4000-8000-000000000011',
  agenda: '00000000-0000-4000-8000-000000000012',
  agendaItem: '00000000-0000-4000-8000-000000000013',
  agendaPaper: '00000000-0000-4000-8000-000000000014',
  outcome: '00000000-0000-4000-8000-00000000002f',
  attendee: '00000000-0000-4000-8000-000000000015',
  pack: '00000000-0000-4000-8000-000000000016',
  packEntry: '00000000-0000-4000-8000-000000000017',
  issue: '00000000-0000-4000-8000-000000000018',
  arrival: '00000000-0000-4000-8000-000000000030',
  filingRule: '00000000-0000-4000-8000-000000000031',
  wayIn: '00000000-0000-4000-8000-000000000032',
  entry: 987_654_321,
};

/** A series and one of each thing in it that ids are asked by, each with the word in its name. */
export async function oneOfEach(keeper: Actor, word: string) {
  const { series, dossier, year } = await furnished(keeper, `${word} series`);
  const folder = await createFolder(keeper, { parentId: year.id, name: `${word} folder` });
  const paper = await fileBuffer(keeper, folder.id, `${word} pact.txt`, Buffer.from(`The ${word} pact\n`));
  const column = await defineColumn(keeper, {
    ...plainFields,
    name: `${word} remark`,
    type: 'text',
    placeId: series.id,
  });
  const list = await createList(keeper, { name: 'Types', terms: ['Minutes'] });
  const label = await createLabel(keeper, { name: `${word} mark`, hue: 'plum', shared: false });
  const group = await createGroup(keeper, { name: 'Committee' });
  return {
    place: folder.id,
    series: series.id,
    other: dossier.id,
    paper,
    column: column.id,
    list: list.id,
    term: (await listOf(keeper, list.id)).terms[0]?.id ?? '',
    label: label.id,
    group: group.id,
  };
}
