import { placeTree } from './tree';

const place = (
  id: string,
  parentId: string | null,
  kind: 'library' | 'series' | 'dossier' | 'year' | 'folder',
  filingYear: number | null = null,
) => ({ id, parentId, kind, filingYear });

it('leads from the library down to each place, whatever order they come in', () => {
  const found = placeTree([
    place('f', 'y', 'folder'),
    place('y', 'd', 'year', 2026),
    place('d', 's', 'dossier'),
    place('l', null, 'library'),
    place('s', 'l', 'series'),
    place('g', 'd', 'folder'),
  ]);
  expect(found.get('f')).toEqual({ lineage: ['l', 's', 'd', 'y', 'f'], filingYear: 2026 });
  expect(found.get('g')).toEqual({ lineage: ['l', 's', 'd', 'g'], filingYear: null });
});

it('leaves out what stands below itself, or in a place that is not there', () => {
  const found = placeTree([
    place('l', null, 'library'),
    place('a', 'b', 'folder'),
    place('b', 'a', 'folder'),
    place('c', 'gone', 'folder'),
  ]);
  expect([...found.keys()]).toEqual(['l']);
});

it('says of a folder the year it stands in, and not one that was stored with it', () => {
  const found = placeTree([
    place('l', null, 'library'),
    place('y', 'l', 'year', 2020),
    place('f', 'y', 'folder', 1999),
  ]);
  expect(found.get('f')?.filingYear).toBe(2020);
});
