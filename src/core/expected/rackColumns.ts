import type { Expectation } from '../plans/expectation';
import type { FilingPlan, PlannedFolder } from '../plans/plan';

/** A column of the rack. */
export interface RackColumn {
  readonly kind: 'year' | 'folder' | 'paper' | 'whole';
  /** The first calendar year of a filing year, the id of a planned folder or expected paper, or `whole`. */
  readonly key: string;
  readonly label: string;
  /** The filing year that is now. */
  readonly current: boolean;
}

type Planned = Pick<FilingPlan, 'folders'> & { readonly expected: readonly Pick<Expectation, 'id' | 'name'>[] };

/** The planned folders that lie in each dossier itself. */
export const outermost = (folders: readonly PlannedFolder[]): readonly PlannedFolder[] =>
  folders.filter((folder) => folder.parentId === null && folder.timing === 'once');

/** A planned folder's name without what differs from dossier to dossier: `Lease of …`. */
const headingOf = (pattern: string): string => pattern.replace(/\{[^}]*\}/gu, '…');

/**
 * The columns of a series whose dossiers are not filed by year: its planned folders; where none are planned, all papers of
 * the dossier and each expected paper.
 */
export function columnsOfPlan({ folders, expected }: Planned): readonly RackColumn[] {
  const shown = outermost(folders);
  if (shown.length > 0)
    return shown.map(({ id, pattern }) => ({ kind: 'folder', key: id, label: headingOf(pattern), current: false }));
  return [
    { kind: 'whole', key: 'whole', label: 'All papers', current: false },
    ...expected.map(({ id, name }): RackColumn => ({ kind: 'paper', key: id, label: name, current: false })),
  ];
}

/** The column, by key, in which a paper expected of each dossier stands; null: with the dossier itself. */
export function columnOf(
  { folderId, id }: Pick<Expectation, 'id' | 'folderId'>,
  columns: readonly RackColumn[],
  folders: readonly PlannedFolder[],
): string | null {
  const keys = new Set(columns.map((column) => column.key));
  if (keys.has(id)) return id;
  let folder = folders.find((each) => each.id === folderId);
  while (folder && !keys.has(folder.id)) {
    const { parentId } = folder;
    folder = folders.find((each) => each.id === parentId);
  }
  return folder?.id ?? null;
}

/** The key under which the papers in a planned folder of a dossier are counted. */
export const folderCell = (dossierId: string, folderId: string): string => `${dossierId} ${folderId}`;
