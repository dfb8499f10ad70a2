import { readySets, setOf } from './capability';
import { resolveLibrary, type AccessLibrary } from './library';
import { matrixOf, rowsFor, setInShort, type MatrixSubject } from './matrix';
import type { Grant } from './resolve';

const ann: MatrixSubject = { id: 'ann', name: 'Ann', kind: 'person', outside: false };
const out: MatrixSubject = { id: 'out', name: 'Otto Outside', kind: 'person', outside: true };
const to = (id: string, gives: number, withholds = 0): Grant => ({ subject: { kind: 'person', id }, gives, withholds });
const place = (id: string, parentId: string | null, grants: readonly Grant[] = [], follows = true) => ({
  id,
  parentId,
  step: { follows, grants },
});
const library: AccessLibrary = {
  places: [
    place('top', null, [to('ann', readySets.reader)]),
    place('plain', 'top'),
    place('inner', 'plain', [to('out', setOf(['see'])), to('ann', 0, setOf(['see']))]),
    place('alone', 'top', [to('ann', readySets.manager)], false),
    place('below', 'alone'),
  ],
  papers: [{ id: 'paper', homeId: 'below', step: { follows: false, grants: [] }, openings: [] }],
};
const people = [ann, out].map(({ id }) => ({ personId: id, groupIds: new Set<string>() }));
const rows = matrixOf(library, resolveLibrary(library, people), [ann, out], new Set(['out']));

it('has a row for each place with what everyone may do there, and what is remarkable in it', () => {
  expect(rows.map(({ id, depth, sets, remarks }) => [id, depth, sets, remarks])).toEqual([
    ['top', 0, [3, 0], []],
    ['plain', 1, [3, 0], []],
    ['inner', 2, [0, 1], ['withholds', 'outside']],
    ['alone', 1, [31, 0], ['alone', 'manager']],
    ['below', 2, [31, 0], []],
  ]);
});

it.each([
  ['differences', ['top', 'plain', 'inner', 'alone', 'below']],
  ['alone', ['top', 'alone']],
  ['unusual', ['top', 'plain', 'inner', 'alone']],
  ['all', ['top', 'plain', 'inner', 'alone', 'below']],
] as const)('keeps for %s what is asked for and the way to it', (view, expected) => {
  expect(rowsFor(rows, view).map((row) => row.id)).toEqual(expected);
});

it('keeps for one person what they may see, and the way to it', () => {
  const his = matrixOf(library, resolveLibrary(library, people), [out], new Set(['out']));
  const seen = rowsFor(his, 'all', (row) => row.sets.some((set) => set !== 0));
  expect(seen.map((row) => row.id)).toEqual(['top', 'plain', 'inner']);
});

it('leaves out of the differences a place that says nothing and leads to none that does', () => {
  const short = matrixOf({ ...library, papers: [] }, resolveLibrary(library, people), [ann], new Set(['out']));
  expect(rowsFor(short, 'differences').map((row) => row.id)).toEqual(['top', 'plain', 'inner', 'alone']);
});

it.each([
  [0, ''],
  [readySets.reader, 'reader'],
  [readySets.manager, 'manager'],
  [setOf(['see']), 'sees'],
  [setOf(['see', 'amend']), 'sees, amends'],
])('says the set %i in short as “%s”', (set, words) => {
  expect(setInShort(set)).toBe(words);
});

it('counts papers that have an access of their own, not those that are listed for another reason', () => {
  const follows = { follows: true, grants: [] };
  const papers = [
    { id: 'locked', homeId: 'plain', step: follows, openings: [] },
    { id: 'opened', homeId: 'below', step: follows, openings: ['top'] },
    ...library.papers,
  ];
  const found = matrixOf({ ...library, papers }, resolveLibrary({ ...library, papers }, people), [ann], new Set());
  expect(found.map((row) => [row.id, row.papersApart]).filter(([, count]) => count !== 0)).toEqual([['below', 2]]);
});
