import { nameKey } from '../text/fold';

/** A dossier, or a place in it, as somebody could file there. */
export interface FolderHere {
  readonly id: string;
  readonly kind: string;
  readonly name: string;
  /** The filing year that it lies in, or is; null: none. */
  readonly year: number | null;
  /** How many papers of the same kind have their home in it. */
  readonly papers: number;
}

/**
 * Where in a dossier a paper of a filing year most likely goes: into the folder of that year, or of all years, whose name has most
 * papers of the same kind through all years; where no folder has any, into the year; where the dossier has none, into the dossier itself.
 * @param folders the dossier first, then all that lie in it
 */
export function likelyFolder(folders: readonly FolderHere[], year: number): FolderHere | null {
  const byName = new Map<string, number>();
  const inside = folders.filter(({ kind }) => kind === 'folder');
  for (const { name, papers } of inside) byName.set(nameKey(name), (byName.get(nameKey(name)) ?? 0) + papers);
  const here = inside.filter((each) => each.year === year || each.year === null);
  const papersOf = ({ name }: FolderHere) => byName.get(nameKey(name)) ?? 0;
  const [best] = here.toSorted((one, other) => papersOf(other) - papersOf(one));
  const years = folders.find((each) => each.kind === 'year' && each.year === year);
  const [dossier] = folders;
  const loose = folders.filter(({ kind }) => kind !== 'folder').reduce((sum, { papers }) => sum + papers, 0);
  if (best && papersOf(best) > 0 && papersOf(best) >= loose) return best;
  return years ?? dossier ?? null;
}
