import { plainFields, type ColumnFields } from '@/core/columns/contract';
import type { Actor } from '@/server/gate/actor';
import { atMoment } from '@/server/base/clock';
import { defineColumn } from '@/server/columns/define';
import { setGiven } from '@/server/columns/given';
import { changeTerm, createList, listOf } from '@/server/columns/lists';
import { setCells } from '@/server/columns/setValues';
import { createLabel, putLabel } from '@/server/labels/labels';
import { openPlace } from '@/server/places/open';
import type { PaperPlan } from './papers';

const paperTypes = [
  'Agenda',
  'Minutes',
  'Report',
  'Accounts',
  'Invoice',
  'Statement',
  'Letter',
  'Contract',
  'Certificate',
  'Policy',
  'Plan',
  'Photograph',
  'Notes',
] as const;

/** The type of a paper by the words of its title; the first that fits. */
const typeWords: readonly (readonly [words: RegExp, type: (typeof paperTypes)[number]])[] = [
  [/^Agenda/u, 'Agenda'],
  [/^Minutes/u, 'Minutes'],
  [/^Invoice|^INVOICE/u, 'Invoice'],
  [/^Statement/u, 'Statement'],
  [/accounts|^Cost plan/u, 'Accounts'],
  [/photograph/u, 'Photograph'],
  [/certificate|insurance check|licence|consent/iu, 'Certificate'],
  [/lease|^Contract|^Specification|mandate/iu, 'Contract'],
  [/policy|standing orders|terms of reference|scheme of|template/iu, 'Policy'],
  [/\bplan\b/iu, 'Plan'],
  [/complaint|access|recharge|review$|query/iu, 'Letter'],
  [/notes|briefing/iu, 'Notes'],
];

/** The type of a demo paper, by the words of its title. */
export const typeOf = (title: string): string => typeWords.find(([words]) => words.test(title))?.[1] ?? 'Report';

/** The columns of the demo library, by name. */
export type DemoColumns = ReadonlyMap<string, string>;

/** Defines the lists and columns, and what the series give: before a paper is filed, so that arriving ones are described. */
export async function defineColumns(
  keeper: Actor,
  rootId: string,
  series: (name: string) => string,
): Promise<DemoColumns> {
  const columns = new Map<string, string>();
  const define = async (
    placeId: string,
    name: string,
    type: ColumnFields['type'],
    more: Partial<ColumnFields> = {},
  ) => {
    columns.set(name, (await defineColumn(keeper, { ...plainFields, name, type, placeId, ...more })).id);
  };
  const types = await createList(keeper, { name: 'Paper type', terms: [...paperTypes] });
  const status = await createList(keeper, { name: 'Status', terms: ['Current', 'Superseded', 'Archived'] });
  const { terms } = await listOf(keeper, types.id);
  const others = { Minutes: ['Record of meeting'], Invoice: ['Bill'], Letter: ['Correspondence', 'Mail'] } as const;
  for (const [name, otherNames] of Object.entries(others)) {
    const term = terms.find((each) => each.name === name);
    if (term) await changeTerm(keeper, { termId: term.id, name, otherNames: [...otherNames], parentId: null });
  }
  const { terms: states } = await listOf(keeper, status.id);
  await define(rootId, 'Paper type', 'choice', { listId: types.id, required: true, help: 'What kind of paper it is.' });
  await define(rootId, 'Document date', 'date', { help: 'The day the paper itself bears.' });
  await define(rootId, 'Status', 'choice', {
    listId: status.id,
    help: 'Whether it is in force.',
    defaultValue: states.find((each) => each.name === 'Current')?.id ?? null,
  });
  await define(rootId, 'Author', 'text', { help: 'Who wrote it, inside or outside.' });
  const board = series('Board & committees');
  await define(board, 'Committee', 'dossier');
  await define(board, 'Year', 'text');
  await define(board, 'Meeting', 'date');
  await define(series('Suppliers'), 'Invoice number', 'text');
  await define(series('Suppliers'), 'Amount', 'amount', { currency: 'GBP' });
  await define(series('Berth tenants'), 'Tenant', 'dossier');
  await define(series('Berth tenants'), 'Valid until', 'date', {
    meaning: 'validUntil',
    help: 'The last day of an insurance or a licence.',
  });
  await define(series('Works'), 'Job', 'dossier');
  const bound = async (placeId: string, lines: Record<string, 'dossier' | 'filingYear' | 'meetingDay'>) => {
    const { place } = await openPlace(keeper, { placeId });
    const given = Object.entries(lines).map(([name, binding]) => ({
      columnId: columns.get(name) ?? '',
      mode: 'fixed' as const,
      value: null,
      binding,
    }));
    await setGiven(keeper, { placeId, given, revision: place.revision });
  };
  await bound(board, { Committee: 'dossier', Year: 'filingYear', Meeting: 'meetingDay' });
  await bound(series('Berth tenants'), { Tenant: 'dossier' });
  await bound(series('Works'), { Job: 'dossier' });
  return columns;
}

/** The last afternoon of the quarter that a day is in, as an instant in milliseconds. */
export const endOfQuarter = (at: Date): number =>
  Date.UTC(at.getUTCFullYear(), (Math.floor(at.getUTCMonth() / 3) + 1) * 3, 0, 15, 30);

/** What a paper is described by, as it would be typed. */
function cellsOf(columns: DemoColumns, { id, plan }: FiledPaper, index: number) {
  const cell = (name: string, text: string) => ({ documentId: id, columnId: columns.get(name) ?? '', text });
  const { title, written, author } = plan.draft;
  return [
    ...(index % 9 === 4 ? [] : [cell('Paper type', typeOf(title))]),
    cell('Document date', written.toISOString().slice(0, 10)),
    ...(index % 4 === 1 ? [] : [cell('Author', author)]),
    // Of the insurances some run out early in the new year.
    ...(/^Public liability certificate 2026/u.test(title)
      ? [cell('Valid until', index % 3 === 0 ? '2027-01-15' : '2027-04-30')]
      : []),
    ...(/\(draft/u.test(title) ? [cell('Status', 'Superseded')] : []),
    ...(plan.series === 'Suppliers' && title.startsWith('Invoice')
      ? [
          cell('Invoice number', title.slice('Invoice '.length)),
          cell('Amount', String(((index * 7919) % 480_000) / 100 + 40)),
        ]
      : []),
  ];
}

interface FiledPaper {
  readonly id: string;
  readonly plan: PaperPlan;
}

/** Describes papers that were filed in one quarter, at its end, as a keeper would have: a ninth of them are forgotten. */
export async function describeQuarter(
  keeper: Actor,
  columns: DemoColumns,
  filed: readonly FiledPaper[],
): Promise<void> {
  const [first] = filed;
  if (!first) return;
  const cells = filed.flatMap((paper, index) => cellsOf(columns, paper, index));
  await atMoment(new Date(endOfQuarter(first.plan.draft.written)), () => setCells(keeper, { cells }));
}

/** Puts the library's labels on the papers that they are for. */
export async function labelPapers(keeper: Actor, filed: readonly FiledPaper[]): Promise<void> {
  const papers = [...new Map(filed.map((each) => [each.id, each])).values()];
  const labels = [
    ['For approval', 'rust', (title: string) => /\(draft/u.test(title)],
    ['Auditor asked', 'teal', (title: string) => /audit|mandate|accounts/iu.test(title)],
    ['Confidential', 'plum', (title: string) => /tender|representations/iu.test(title)],
  ] as const;
  for (const [name, hue, fits] of labels) {
    const { id } = await createLabel(keeper, { name, hue, shared: true });
    const documentIds = papers.filter(({ plan }) => fits(plan.draft.title)).map((paper) => paper.id);
    if (documentIds.length > 0) await putLabel(keeper, { labelId: id, documentIds, on: true });
  }
}
