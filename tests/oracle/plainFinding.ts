/**
 * What words find, by the plainest way there is: each text of each paper that may be seen is looked through by itself. It
 * shares the words of a text and their stems with the index, and no step of the work.
 */
import { periodDays, dayNumber } from '@/core/calendar/period';
import { termOf as slowTermOf, tokensIn } from '@/core/search/analyse';
import type { TextIndex } from '@/core/search/textHits';
import { blockOf, readPostings, type Postings } from '@/core/search/postings';
import { readQuestion, type Wanted } from '@/core/search/question';
import { TermList } from '@/core/search/termList';
import type { Among } from '@/core/search/among';
import { wordsIn } from '@/core/text/words';
import { asAmount, asDayPeriod, writtenIn } from '@/core/text/written';
import { joinedOf } from '@/core/search/analyse';
import { stopWordsOf } from '@/core/text/stopWords';
import { searchKey } from '@/core/text/fold';
import type { ViewPaper } from '@/core/views/question';
import { NaivePapers } from './naivePapers';

/** A text by its number, in a language. */
export interface PlainText {
  readonly text: string;
  readonly language: string;
}

/** The index of some texts, in segments of three. */
export function plainIndex(texts: ReadonlyMap<number, PlainText>): Pick<TextIndex, 'terms' | 'postings'> {
  const places = new Map<string, Map<number, number[]>>();
  for (const [number, { text, language }] of [...texts].sort(([one], [other]) => one - other))
    for (const { term, position } of tokensIn(text, language)) {
      const of = places.get(term) ?? new Map<number, number[]>();
      places.set(
        term,
        of.set(
          number,
          [...new Set([...(of.get(number) ?? []), position])].sort((a, b) => a - b),
        ),
      );
    }
  const terms = new TermList();
  terms.add([...places].map(([term, of]) => [term, of.size] as const));
  return {
    terms,
    postings: (term): Postings | null => {
      const entries = [...(places.get(term) ?? [])].map(([number, positions]) => ({ number, positions }));
      if (entries.length === 0) return null;
      const blocks: ReturnType<typeof blockOf>[] = [];
      for (let at = 0; at < entries.length; at += 3) blocks.push(blockOf(entries.slice(at, at + 3)));
      const join = (part: 'docs' | 'pos') => Uint8Array.from(blocks.flatMap((block) => [...block[part]]));
      return readPostings(join('docs'), join('pos'));
    },
  };
}

/** The same words come again and again. */
const known = new Map<string, string>();
function termOf(word: string, language: string | null): string {
  const key = `${language} ${word}`;
  const term = known.get(key) ?? slowTermOf(word, language);
  known.set(key, term);
  return term;
}

const folded = (word: string): string => searchKey(word).replace(/[^\p{L}\p{N}]+/gu, '');

/** Which papers words find. */
export class PlainFinding extends NaivePapers {
  texts: ReadonlyMap<number, PlainText> = new Map();
  languages: readonly string[] = [];

  /** The ids of the papers found, among those that the question's other conditions leave. */
  found(typed: string, among: Among): string[] {
    const { all, none } = readQuestion(typed);
    // What is a stop word in every language is asked of nothing, unless there is nothing else.
    const said = all.filter((wanted) => !this.isSilent(wanted));
    const asked = said.length === 0 ? all : said;
    if (asked.length === 0) return [];
    return this.standing()
      .filter(({ paper }) => among !== 'mail' || paper.kind === 'MAIL')
      .filter(({ paper }) => asked.every((wanted) => this.has(paper, wanted, among)))
      .filter(({ paper }) => !none.some((wanted) => this.has(paper, wanted, among)))
      .map(({ paper }) => paper.id)
      .sort();
  }

  /** Whether no text can have it. */
  private isSilent(wanted: Wanted): boolean {
    if (wanted.joined !== null || wanted.written !== null || wanted.part !== null || wanted.isBeginning) return false;
    return wanted.words.every((word) =>
      [null, ...this.languages].every((language) => stopWordsOf(language).has(word.normalize('NFKC').toLowerCase())),
    );
  }

  private has(paper: ViewPaper, wanted: Wanted, among: Among): boolean {
    const { titles, values, places } = this.names(paper);
    const names = {
      everything: [...titles, ...values, ...places],
      titles,
      inside: [],
      values,
      mail: [...titles, ...values],
    };
    if (names[among].some((name) => this.inName(name, wanted))) return true;
    if (among === 'everything' || among === 'values' || among === 'mail')
      if (this.isExactly(paper, wanted)) return true;
    return (
      among !== 'titles' &&
      among !== 'values' &&
      paper.texts.some(({ number }) => {
        const text = this.texts.get(number);
        return text !== undefined && this.inText(text, wanted);
      })
    );
  }

  private names(paper: ViewPaper) {
    const { names, otherNames, columns } = this.library.world;
    const named = (id: string) => [names.get(id) ?? '', ...(otherNames.get(id) ?? [])];
    const values = columns.flatMap((column) => {
      if (column.retired) return [];
      // A long text counts wherever it is kept.
      if (column.type === 'longText')
        return typeof paper.values[column.id] === 'string' ? [String(paper.values[column.id])] : [];
      return this.held(paper, column.id).flatMap((value) => {
        if (this.hidden(column.id, value)) return [];
        const place = this.places.get(String(value));
        if (column.type === 'choice' || column.type === 'choices' || column.type === 'person')
          return named(String(value));
        if (column.type === 'dossier') return [place?.name ?? '', place?.reference ?? ''];
        return column.type === 'text' ? [String(value)] : [];
      });
    });
    const labels = this.held(paper, 'label').flatMap((id) => named(String(id)));
    const [stand] = this.standsAt(paper);
    const places = (stand?.lineage ?? [])
      .map((id) => this.places.get(id))
      .flatMap((place) => (place === undefined || place.kind === 'library' ? [] : [place.name, place.reference ?? '']));
    return { titles: [paper.title, paper.fileName], values: [...values, ...labels, paper.remark], places };
  }

  private isExactly(paper: ViewPaper, { written }: Wanted): boolean {
    if (written === null) return false;
    return this.library.world.columns.some((column) => {
      if (column.retired) return false;
      const [value] = this.held(paper, column.id);
      if (typeof value === 'number') return value === asAmount(written);
      const period = asDayPeriod(written);
      if (column.type !== 'date' || period === null || typeof value !== 'string') return false;
      const days = periodDays(period, this.looking);
      const day = dayNumber(value) ?? NaN;
      return days !== null && day >= (days.from ?? 0) && day <= (days.to ?? 0);
    });
  }

  private inName(name: string, wanted: Wanted): boolean {
    const words = [...wordsIn(name)].map(folded);
    const isOne = (word: string, typed: string) => {
      const stems = (of: string) => new Set([null, ...this.languages].map((language) => termOf(of, language)));
      return word !== '' && [...stems(typed)].some((stem) => stems(word).has(stem));
    };
    return this.isIn(name, words, wanted, isOne);
  }

  private inText({ text, language }: PlainText, wanted: Wanted): boolean {
    const stops = stopWordsOf(language);
    const words = [...wordsIn(text)].map((word) =>
      stops.has(word.normalize('NFKC').toLowerCase()) ? '' : termOf(word, language),
    );
    return [null, ...this.languages].some((asked) => {
      const isStop = (typed: string) => stopWordsOf(asked).has(typed.normalize('NFKC').toLowerCase());
      if (wanted.words.every(isStop) && wanted.words.length > 0)
        return this.isIn(text, words, { ...wanted, words: [] }, () => false);
      // A word that is none in the language it is asked in stands for any, and at either end for nothing.
      const [first, last] = [
        wanted.words.findIndex((each) => !isStop(each)),
        wanted.words.findLastIndex((each) => !isStop(each)),
      ];
      const typedHere = { ...wanted, words: wanted.words.slice(first, last + 1) };
      return this.isIn(text, words, typedHere, (word, typed) =>
        isStop(typed) ? true : word !== '' && word === termOf(typed, asked),
      );
    });
  }

  private isIn(
    text: string,
    words: readonly string[],
    { words: typed, joined, written, isBeginning, part }: Wanted,
    isOne: (word: string, typed: string) => boolean,
  ): boolean {
    const start = isBeginning ? termOf(typed[0] ?? '', null) : '';
    return (
      (typed.length > 0 &&
        words.some((_word, at) =>
          typed.every((each, on) => at + on < words.length && isOne(words[at + on] ?? '', each)),
        )) ||
      (typed.length === 1 && [...text.matchAll(/\S+/gu)].some(([run]) => isOne(joinedOf(run) ?? '', typed[0] ?? ''))) ||
      (joined !== null &&
        [...text.matchAll(/\S+/gu)].some(([run]) => joinedOf(run) === joined || folded(run) === joined)) ||
      (written !== null && writtenIn(text).some(({ keys }) => keys.includes(written))) ||
      (start.length > 1 && words.some((word) => word.startsWith(start))) ||
      (part !== null &&
        ([...text.matchAll(/\S+/gu)].some(([run]) => (joinedOf(run) ?? '').includes(part)) ||
          words.some((word) => word.includes(part))))
    );
  }
}
