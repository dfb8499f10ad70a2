import { likelyFolder, type FolderHere } from './likelyFolder';

const dossier: FolderHere = { id: 'd', kind: 'dossier', name: 'Lantern Dredging', year: null, papers: 0 };
const year = (at: number): FolderHere => ({ id: `y${at}`, kind: 'year', name: String(at), year: at, papers: 0 });
const folder = (id: string, name: string, at: number | null, papers: number): FolderHere => ({
  ...{ id, kind: 'folder', name, year: at, papers },
});

it('goes into the folder of the year whose name has most papers through all years', () => {
  const folders = [
    dossier,
    year(2025),
    folder('a', 'Invoices', 2025, 14),
    folder('b', 'Letters', 2025, 3),
    year(2026),
    folder('c', 'Letters', 2026, 2),
    folder('e', 'INVOICES', 2026, 0),
  ];
  expect(likelyFolder(folders, 2026)?.id).toBe('e');
  expect(likelyFolder(folders, 2025)?.id).toBe('a');
  // No year of its own yet: into the dossier.
  expect(likelyFolder(folders, 2027)?.id).toBe('d');
});

it('goes into the year where papers lie loose, or nothing is filed yet', () => {
  expect(likelyFolder([dossier, year(2026), folder('a', 'Invoices', 2026, 0)], 2026)?.id).toBe('y2026');
  expect(likelyFolder([dossier, { ...year(2026), papers: 9 }, folder('a', 'Odd', 2026, 1)], 2026)?.id).toBe('y2026');
});

it('goes into a folder of all years where that has most', () => {
  expect(likelyFolder([dossier, year(2026), folder('a', 'Contract', null, 4)], 2026)?.id).toBe('a');
  expect(likelyFolder([dossier], 2026)?.id).toBe('d');
  expect(likelyFolder([], 2026)).toBeNull();
});
