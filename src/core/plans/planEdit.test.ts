import { Chance } from '../../../tests/oracle/chance';
import { checkPlan, type PlannedFolder } from './plan';
import { addPlanned, fromReady, planDepth, removePlanned, renamePlanned, shiftPlanned } from './planEdit';
import { readyPlans } from './readyPlans';

let last = 0;
const makeId = (): string => `id ${(last += 1)}`;
const shape = (folders: readonly PlannedFolder[]): string[] =>
  folders.map((each) => '-'.repeat(planDepth(folders, each.id)) + each.pattern);
const start = fromReady(
  [
    { timing: 'once', pattern: 'A', within: ['A1', 'A2'] },
    { timing: 'once', pattern: 'B' },
    { timing: 'year', pattern: 'Y' },
  ],
  makeId,
);
const idOf = (pattern: string): string => start.find((each) => each.pattern === pattern)?.id ?? '';

it('adds a folder last in another, or last of those made as often', () => {
  const in_ = addPlanned(start, { id: 'x', parentId: idOf('A'), timing: 'once', pattern: 'A3' });
  expect(shape(in_)).toEqual(['A', '-A1', '-A2', '-A3', 'B', 'Y']);
  const deep = addPlanned(in_, { id: 'y', parentId: 'x', timing: 'once', pattern: 'A31' });
  expect(shape(addPlanned(deep, { id: 'z', parentId: idOf('A'), timing: 'once', pattern: 'A4' }))).toEqual([
    'A',
    '-A1',
    '-A2',
    '-A3',
    '--A31',
    '-A4',
    'B',
    'Y',
  ]);
  expect(shape(addPlanned(start, { id: 'x', parentId: null, timing: 'once', pattern: 'C' }))).toEqual([
    'A',
    '-A1',
    '-A2',
    'B',
    'C',
    'Y',
  ]);
});

it('moves a folder among those beside it, with all that stands in it, and nowhere at the end', () => {
  expect(shape(shiftPlanned(start, idOf('B'), -1))).toEqual(['B', 'A', '-A1', '-A2', 'Y']);
  expect(shape(shiftPlanned(start, idOf('A'), 1))).toEqual(['B', 'A', '-A1', '-A2', 'Y']);
  expect(shape(shiftPlanned(start, idOf('A2'), -1))).toEqual(['A', '-A2', '-A1', 'B', 'Y']);
  expect(shiftPlanned(start, idOf('Y'), -1)).toEqual(start);
  expect(shiftPlanned(start, idOf('A'), -1)).toEqual(start);
});

it('removes a folder with what stands in it, and renames one alone', () => {
  expect(shape(removePlanned(start, idOf('A')))).toEqual(['B', 'Y']);
  expect(shape(renamePlanned(start, idOf('B'), 'Bee'))).toEqual(['A', '-A1', '-A2', 'Bee', 'Y']);
});

it('keeps a plan in order through any edits: every folder after the one it stands in', () => {
  for (let seed = 0; seed < 300; seed += 1) {
    const chance = new Chance(seed);
    let folders: readonly PlannedFolder[] = start;
    for (let edit = 0; edit < 15; edit += 1) {
      const any = folders.length === 0 ? null : chance.pick(folders);
      const id = makeId();
      if (any === null || chance.happens(0.4))
        folders = addPlanned(folders, {
          id,
          parentId: any && chance.happens(0.5) ? any.id : null,
          timing: any?.timing ?? 'once',
          pattern: id,
        });
      else if (chance.happens(0.7)) folders = shiftPlanned(folders, any.id, chance.happens(0.5) ? 1 : -1);
      else folders = removePlanned(folders, any.id);
      const checked = checkPlan({ byYear: true, folders });
      expect(checked.ok ? '' : checked.issue.says).toBe('');
    }
  }
});

it.each(readyPlans.map((ready) => [ready.name, ready.folders] as const))(
  'the ready-made plan “%s” is sound',
  (_name, ready) => {
    expect(checkPlan({ byYear: true, folders: fromReady(ready, makeId) }).ok).toBe(true);
  },
);
