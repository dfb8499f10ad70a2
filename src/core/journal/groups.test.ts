import { journalEvents } from './events';
import { actGroups, actsOf, groupOf } from './groups';

it('puts every act into one group, and leaves none of them empty', () => {
  const all = actGroups.flatMap(actsOf);
  expect(all.length).toBe(Object.keys(journalEvents).length);
  expect(new Set(all).size).toBe(all.length);
  for (const group of actGroups) expect(actsOf(group)).not.toEqual([]);
});

it.each([
  ['paper.renamed', 'filing'],
  ['papers.destroyed', 'disposal'],
  ['label.put', 'values'],
  ['dossier.created', 'places'],
  ['year.closed', 'places'],
  ['token.created', 'access'],
  ['group.changed', 'people'],
  ['library.changed', 'library'],
] as const)('%s is of the group %s', (act, group) => {
  expect(groupOf(act)).toBe(group);
});
