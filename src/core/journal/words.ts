import { writeDay } from '../calendar/typedDay';
import { counted } from '../text/measure';
import { isAct, journalEvents, partPattern } from './events';
import type { JournalDetail } from './model';

/**
 * An entry in words, following the person's name. Parts that the reader may not be told were left out (`toldTo`) and read
 * "a place not open to you".
 */
export function entryInWords(act: string, detail: JournalDetail): string {
  if (!isAct(act)) return 'did something this version does not know';
  return journalEvents[act].replace(partPattern, (_whole, part: string, kind?: string) => {
    const value = detail[part];
    if (value === undefined) return 'a place not open to you';
    if (value === null || value === '') return 'none';
    if (kind === 'day') return writeDay(String(value));
    if (kind === 'papers' && typeof value === 'number') return papersInWords(value, detail[`${part}Title`]);
    return String(value);
  });
}

const papersInWords = (count: number, title: JournalDetail[string] | undefined): string =>
  typeof title === 'string' ? `“${title}”` : counted(count, 'paper');
