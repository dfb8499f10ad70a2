import { isAct, journalEvents, partsOf } from './events';
import type { JournalDetail } from './model';

/** Which of the existing papers and places among some ids a reader may know of; ids of neither kind are in no map. */
export interface Sight {
  readonly papers: ReadonlyMap<string, boolean>;
  readonly places: ReadonlyMap<string, boolean>;
}

interface StoredEvent {
  readonly act: string;
  readonly subjects: readonly string[];
  readonly detail: JournalDetail;
}

/**
 * An entry's details as a reader may be told them; null if they may not be told of it at all, since it would name a paper
 * or place that they may not know of. Follows from the kinds of its parts: a place named as a part is left out; of several
 * papers only those are counted that the reader may know of, and where they lay is not said.
 */
export function toldTo({ act, subjects, detail }: StoredEvent, sight: Sight): JournalDetail | null {
  // Who might have known of a removed place can no longer be told; nor what an unknown act would name.
  if (!isAct(act) || act === 'place.removed') return null;
  const words = journalEvents[act];
  const named = partsOf(words, 'place');
  const ends = new Set(named.map((part) => detail[`${part}Id`]));
  const papers = subjects.filter((id) => sight.papers.has(id));
  const seen = papers.filter((id) => sight.papers.get(id));
  const [counted] = partsOf(words, 'papers');
  const isCounted = counted !== undefined && countsSeveral(detail[counted], papers.length);
  const hasHidden = subjects.some((id) => sight.places.get(id) === false && !ends.has(id));
  if (isCounted ? seen.length === 0 : seen.length < papers.length || hasHidden) return null;

  const isTold = (part: string): boolean => {
    const id = detail[`${part}Id`];
    // Null names no single place. Older entries may lack the id: then any hidden place may be the one they name.
    return id === undefined ? !hasHidden : id === null || sight.places.get(String(id)) === true;
  };
  const hidden = new Set(named.filter((part) => !isTold(part)));
  return {
    ...Object.fromEntries(Object.entries(detail).filter(([key]) => !hidden.has(key))),
    ...(isCounted ? { [counted]: seen.length } : {}),
  };
}

/** Whether a part counts several papers. Older entries hold words instead of a number; then the subjects tell. */
const countsSeveral = (stored: JournalDetail[string] | undefined, papers: number): boolean =>
  typeof stored === 'number' ? stored > 1 : papers > 1;
