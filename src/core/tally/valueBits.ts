import type { Column } from '../columns/model';
import { periodDays } from '../calendar/period';
import type { Wanted } from '../search/question';
import { asAmount, asDayPeriod } from '../text/written';
import type { AskedFor } from '../views/conditions';
import type { CodedLane } from './lane';
import type { Matcher } from './matcher';
import { placeWords } from './placeBits';
import type { Scan } from './scan';
import type { Dictionary } from './stores';

/** Writes in which values of which rows what is wanted stands. */
type Reader = (matcher: Matcher, into: Int32Array) => void;

/** Types whose values are words by themselves or by a name. */
const worded: ReadonlySet<Column['type']> = new Set(['choice', 'choices', 'text', 'person', 'dossier']);

/**
 * Reads the words of all values, so that the lexicon knows them, and returns what then writes where they are wanted. Values
 * count only where their column is in force, and what is hidden from the asker does not: it is the views' own lanes that are
 * read.
 */
export function valueBits(scan: Scan, wanted: readonly Wanted[]): Reader {
  const { tally } = scan;
  const { names, otherNames } = tally.world;
  const named = (value: AskedFor): string[] => {
    const id = String(value);
    return [names.get(id) ?? '', ...(otherNames.get(id) ?? [])];
  };
  const readers: Reader[] = [];
  tally.labels.dictionary.words.read(tally.lexicon, tally.world, named);
  readers.push(coded(scan, tally.labels.dictionary, () => scan.lane('label')));
  for (const column of tally.world.columns) {
    const store = tally.columns.get(column.id);
    if (column.retired || !store) continue;
    if (store.kind === 'number' || store.kind === 'day') {
      readers.push(exactly(scan, column.id, wanted));
      continue;
    }
    if (store.kind === 'presence' || !worded.has(column.type)) continue;
    const { dictionary } = store;
    if (column.type === 'dossier')
      dictionary.words.read(tally.lexicon, placeWords(tally), (id) => placeName(scan, String(id)));
    else if (column.type === 'text') dictionary.words.read(tally.lexicon, dictionary, (value) => [String(value)]);
    else dictionary.words.read(tally.lexicon, tally.world, named);
    readers.push(coded(scan, dictionary, () => scan.lane(column.id)));
  }
  return (matcher, into) => readers.forEach((read) => read(matcher, into));
}

const placeName = ({ tally }: Scan, id: string): string[] => {
  const place = tally.places[tally.placeCodes.get(id) ?? -1];
  return place ? [place.name, place.reference ?? ''] : [];
};

function coded(scan: Scan, dictionary: Dictionary, lane: () => ReturnType<Scan['lane']>): Reader {
  return (matcher, into) => {
    const ofValue = dictionary.words.bits(matcher);
    if (ofValue === null) return;
    const values = lane() as CodedLane;
    const told = ofValue.map((bits, code) => (bits !== 0 && values.isHidden(code) ? 0 : bits));
    const ofCode = values.sets
      ? Int32Array.from(values.sets, (set) => set.reduce((sum, code) => sum | (told[code] as number), 0))
      : told;
    const { rows } = scan;
    const { codes } = values;
    for (let at = 0; at < rows.length; at += 1) {
      const row = rows[at] as number;
      into[row] = (into[row] as number) | (ofCode[codes[row] as number] as number);
    }
  };
}

/** Numbers and days that are the ones that were typed. */
function exactly(scan: Scan, of: string, wanted: readonly Wanted[]): Reader {
  return (_matcher, into) => {
    wanted.forEach(({ written }, which) => {
      if (written === null) return;
      const [amount, period] = [asAmount(written), asDayPeriod(written)];
      const days = period === null ? null : periodDays(period, scan.looking);
      const lane = scan.lane(of);
      const holds =
        lane.kind === 'number' && amount !== null
          ? (row: number) => lane.numbers[row] === amount
          : lane.kind === 'day' && days
            ? (row: number) =>
                (lane.days[row] as number) >= (days.from ?? 0) && (lane.days[row] as number) <= (days.to ?? 0)
            : null;
      if (holds) for (const row of scan.rows) if (holds(row)) into[row] = (into[row] as number) | (1 << which);
    });
  };
}
