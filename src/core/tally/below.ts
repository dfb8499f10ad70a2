import { good, type Result } from '../errors/result';
import type { Asker, Question } from '../views/question';
import { Scan } from './scan';
import type { Tally } from './tally';

/** Asks how many papers stand in each of some places, and below it. */
export interface BelowQuestion {
  /** A place that holds all of them; only what changes below it has to be known. */
  readonly placeId: string;
  /** None of them may lie in another. */
  readonly placeIds: readonly string[];
}

/** Papers that the asker may see, by the order of the places asked about; one that stands several times in a place counts once. */
export type Below = readonly number[];

const nowhere = -1;

/** Counts the papers in and below places for one person. */
export function belowFrom(tally: Tally, { placeId, placeIds }: BelowQuestion, asker: Asker): Result<Below> {
  const scan = new Scan(tally, allBelow(placeId), asker);
  const asked = new Map(placeIds.map((id, at) => [id, at]));
  /** Which of the places asked about each place lies in. */
  const within = Int32Array.from(
    tally.places,
    ({ lineage }) => asked.get(lineage.find((id) => asked.has(id)) ?? '') ?? nowhere,
  );
  const counts = new Int32Array(placeIds.length);
  const { homes, isApart } = tally;
  for (const row of scan.rows) {
    if (isApart[row] === 1) {
      const stands = scan.standing.get(row) ?? [];
      for (const at of new Set(stands.map((code) => within[code] as number)))
        if (at !== nowhere) counts[at] = (counts[at] as number) + 1;
      continue;
    }
    const at = within[homes[row] as number] as number;
    if (at !== nowhere) counts[at] = (counts[at] as number) + 1;
  }
  return good([...counts]);
}

/** The question that shows everything in a place and below it. */
export const allBelow = (placeId: string): Question => ({
  placeId,
  below: true,
  conditions: [],
  groupings: [],
  sorts: [],
  counts: [],
  measures: [],
  start: 0,
  limit: 0,
});
