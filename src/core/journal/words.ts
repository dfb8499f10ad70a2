import { journalActs, type JournalAct, type JournalDetail } from './model';

const isAct = (text: string): text is JournalAct => Object.hasOwn(journalActs, text);

/**
 * An entry in words, after the person's name. A detail that the reader may not see is left out of
 * `detail` by the server and reads "a place not open to you".
 */
export function entryInWords(act: string, detail: JournalDetail): string {
  if (!isAct(act)) return 'did something this version does not know';
  return journalActs[act].replace(/\{(?<part>\w+)\}/gu, (_whole, part: string) => {
    const value = detail[part];
    if (value === undefined) return 'a place not open to you';
    return value === null || value === '' ? 'none' : String(value);
  });
}
