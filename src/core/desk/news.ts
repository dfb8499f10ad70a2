import type { Stamp } from '../files/fileKind';

/** A change of one paper, as the desk's news are made of. Times are ISO 8601. */
export interface PaperChange {
  readonly id: string;
  readonly title: string;
  readonly stamp: Stamp;
  readonly placeId: string;
  readonly placeName: string;
  readonly by: string;
  readonly at: string;
  readonly verb: 'filed' | 'changed';
}

/** What one person did to papers of one place at one time. */
export interface NewsLine {
  readonly verb: PaperChange['verb'];
  readonly by: string;
  readonly placeId: string;
  readonly placeName: string;
  /** Of the latest change. */
  readonly at: string;
  readonly count: number;
  /** The latest few of them. */
  readonly papers: readonly Pick<PaperChange, 'id' | 'title' | 'stamp'>[];
}

/** Changes so far apart are still one act to whoever reads of them. */
const togetherMs = 10 * 60_000;
const mostNamed = 3;

/**
 * Changes as lines, newest first: what the same person did to papers of the same place, each within ten minutes of the next,
 * is one line however many they are. One import does not fill the desk.
 * @param changes newest first
 */
export function newsOf(changes: readonly PaperChange[], most: number): NewsLine[] {
  const lines: (NewsLine & { readonly since: number })[] = [];
  const open = new Map<string, number>();
  for (const change of changes) {
    const key = [change.verb, change.by, change.placeId].join('\n');
    const time = Date.parse(change.at);
    const found = open.get(key);
    const line = found === undefined ? undefined : lines[found];
    const paper = { id: change.id, title: change.title, stamp: change.stamp };
    if (found !== undefined && line && line.since - time <= togetherMs) {
      const papers = line.papers.length < mostNamed ? [...line.papers, paper] : line.papers;
      lines[found] = { ...line, count: line.count + 1, papers, since: time };
      continue;
    }
    if (lines.length === most) continue;
    const { verb, by, placeId, placeName, at } = change;
    open.set(key, lines.push({ verb, by, placeId, placeName, at, count: 1, papers: [paper], since: time }) - 1);
  }
  return lines.map(({ since: _since, ...line }) => line);
}
