import type { NamedGroup } from './contract';

/** A group's heading. */
export interface HeadingLine {
  readonly kind: 'group';
  readonly group: NamedGroup;
  /** Identifies the group: its keys from the first level down. */
  readonly path: string;
  readonly depth: number;
  readonly open: boolean;
  /** The index of its first line of papers, counting folded ones. */
  readonly start: number;
  /** Its ancestors from the first level down, and itself. */
  readonly trail: readonly NamedGroup[];
}
/** A line that shows a paper. */
export interface PaperLine {
  readonly kind: 'paper';
  readonly line: number;
  readonly depth: number;
  /** The first line of its group, since a paper can be in several groups. */
  readonly group: number;
}

interface Piece {
  /** Its first line on the screen. */
  readonly at: number;
  readonly length: number;
  readonly heading: HeadingLine | null;
  readonly start: number;
  readonly depth: number;
}

/** The lines on the screen: headings, and below open ones their papers. */
export interface Display {
  readonly count: number;
  readonly lineAt: (index: number) => HeadingLine | PaperLine | null;
  /** The position of a line of papers on the screen; -1 if its group is folded. */
  readonly indexOf: (line: number) => number;
  readonly headings: readonly HeadingLine[];
}

/** Lays out groups and lines of papers. Lines in folded groups are hidden, but keep their numbers. */
export function displayOf(groups: readonly NamedGroup[], lines: number, folded: ReadonlySet<string>): Display {
  const pieces: Piece[] = [];
  let [count, line] = [0, 0];
  const add = (length: number, heading: HeadingLine | null, start: number, depth: number) => {
    if (length > 0) pieces.push({ at: count, length, heading, start, depth });
    count += length;
  };
  const visit = (level: readonly NamedGroup[], above: string, trail: readonly NamedGroup[]) => {
    for (const group of level) {
      const path = `${above}${JSON.stringify([group.kind, group.key])}`;
      const start = line;
      const depth = trail.length;
      const open = !folded.has(path);
      const within = [...trail, group];
      add(1, { kind: 'group', group, path, depth, open, start, trail: within }, start, depth);
      if (open && group.groups.length > 0) visit(group.groups, path, within);
      else if (open) add(group.lines, null, start, depth + 1);
      line = start + group.lines;
    }
  };
  if (groups.length === 0) add(lines, null, 0, 0);
  else visit(groups, '', []);
  const pieceAt = (index: number): Piece | undefined => {
    let [low, high] = [0, pieces.length];
    while (low < high) {
      const middle = (low + high) >>> 1;
      if ((pieces[middle]?.at ?? 0) <= index) low = middle + 1;
      else high = middle;
    }
    return pieces[low - 1];
  };
  return {
    count,
    lineAt: (index) => {
      const piece = index < 0 || index >= count ? undefined : pieceAt(index);
      if (!piece) return null;
      return (
        piece.heading ?? { kind: 'paper', line: piece.start + index - piece.at, depth: piece.depth, group: piece.start }
      );
    },
    indexOf: (wanted) => {
      const piece = pieces.find((each) => !each.heading && wanted >= each.start && wanted < each.start + each.length);
      return piece ? piece.at + wanted - piece.start : -1;
    },
    headings: pieces.flatMap((piece) => piece.heading ?? []),
  };
}

/** The paths of all groups of a level and below, for folding them. */
export function pathsFrom(groups: readonly NamedGroup[], above = ''): string[] {
  return groups.flatMap((group) => {
    const path = `${above}${JSON.stringify([group.kind, group.key])}`;
    return [path, ...pathsFrom(group.groups, path)];
  });
}
