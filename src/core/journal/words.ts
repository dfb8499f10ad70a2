import { writeDay } from '../calendar/typedDay';
import { journalActs, type JournalAct, type JournalDetail } from './model';

const isAct = (text: string): text is JournalAct => Object.hasOwn(journalActs, text);

/**
 * An entry in words, following the person's name; `{part:day}` is an ISO 8601 day. Details that the reader may not see
 * are left out by the server and read "a place not open to you".
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
