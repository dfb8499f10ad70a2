import { writeDay } from '../calendar/typedDay';
import { journalActs, type JournalAct, type JournalDetail } from './model';

const isAct = (text: string): text is JournalAct => Object.hasOwn(journalActs, text);

/**
 * An entry in words, after the person's name; `{part:day}` is a day, kept as ISO 8601 has it. A detail that the reader may
 * not see is left out of `detail` by the server and reads "a place not open to you".
 */
export function entryInWords(act: string, detail: JournalDetail): string {
  if (!isAct(act)) return 'did something this version does not know';
  return journalActs[act].replace(/\{(\w+)(:day)?\}/gu, (_whole, part: string, isDay?: string) => {
    const value = detail[part];
    if (value === undefined) return 'a place not open to you';
    if (value === null || value === '') return 'none';
    return isDay ? writeDay(String(value)) : String(value);
  });
}
