import type { Expectation } from '../plans/expectation';
import type { PlannedFolder } from '../plans/plan';
import { rackRow, type Holding } from './rack';
import { columnOf, columnsOfPlan, folderCell } from './rackColumns';

const folder = (id: string, parentId: string | null = null): PlannedFolder => ({
  id,
  parentId,
  timing: 'once',
  pattern: id,
});
const expectation = (id: string, folderId: string | null, dueDays: number): Expectation => ({
  id,
  timing: 'once',
  name: `Paper ${id}`,
  folderId,
  conditions: [],
  dueDays,
  dueFrom: 'start',
});
const folders = [folder('contract'), folder('annexes', 'contract'), folder('cost')];
const expected = [expectation('a', 'annexes', 10), expectation('b', 'cost', 90), expectation('c', null, 10)];
const dossier = {
  id: 'd',
  years: [],
  meetings: [],
  started: 0,
  ended: null,
  made: 0,
  bareStep: false,
};
const held = (papers: number): Holding => ({ papers, pages: papers, bytes: papers, lastFiledMs: papers });

function row(given: { readonly planned: readonly PlannedFolder[]; readonly has: readonly string[] }) {
  const columns = columnsOfPlan({ folders: given.planned, expected });
  const holdings = new Map([
    ['d', held(1)],
    [folderCell('d', 'contract'), held(2)],
    [folderCell('d', 'cost'), held(4)],
  ]);
  return rackRow(
    { ...dossier, folders: new Set(given.has) },
    {
      expected,
      met: new Map([['d', 0]]),
      waived: new Map(),
      today: 50,
      columns,
      columnOf: (each) => columnOf(each, columns, given.planned),
      yearStartMonth: 4,
      holding: (cell) => holdings.get(cell),
    },
  );
}

it('has the outermost planned folders across, with the papers in each and what is expected there', () => {
  expect(columnsOfPlan({ folders, expected }).map((column) => column.key)).toEqual(['contract', 'cost']);
  const told = row({ planned: folders, has: ['contract', 'cost'] });
  expect(told.cells.map((cell) => [cell?.papers, cell?.squares])).toEqual([
    [2, 'g'],
    [4, 'a'],
  ]);
  expect(told).toMatchObject({ squares: 'g', gaps: 2, whole: { papers: 7 } });
});

it('leaves out of a heading what differs from dossier to dossier', () => {
  const planned = [{ ...folder('lease'), pattern: 'Lease of {dossier}' }];
  expect(columnsOfPlan({ folders: planned, expected }).map((column) => column.label)).toEqual(['Lease of …']);
});

it('shows with the dossier what is expected in a folder that it lacks', () => {
  const told = row({ planned: folders, has: ['cost'] });
  expect(told.cells.map((cell) => cell?.squares ?? null)).toEqual([null, 'a']);
  expect(told).toMatchObject({ squares: 'gg', gaps: 2, whole: { papers: 5 } });
});

it('has all papers and each expected paper across where no folders are planned', () => {
  const told = row({ planned: [], has: [] });
  expect(columnsOfPlan({ folders: [], expected }).map((column) => column.label)).toEqual([
    'All papers',
    'Paper a',
    'Paper b',
    'Paper c',
  ]);
  expect(told.cells.map((cell) => [cell?.papers, cell?.squares])).toEqual([
    [1, ''],
    [0, 'g'],
    [0, 'a'],
    [0, 'g'],
  ]);
  expect(told).toMatchObject({ squares: '', gaps: 2, whole: { papers: 1 } });
});
