import { asDayPeriod, writtenIn } from '../text/written';
import { readMoney } from './money';
import type { SingleKind, Stated } from './model';
import type { Word } from './rows';

/** What is read of a value. */
export type Read = Pick<Stated, 'value' | 'currency' | 'words'>;

/** Words as they stand there. */
export const textOf = (words: readonly Word[]): string => words.map(({ text }) => text).join(' ');

/** Of so many words each is at most, if nothing else was taught. */
const longest: Readonly<Record<SingleKind, number>> = { number: 1, day: 5, due: 5, amount: 4 };

/** Behind a number, the sign that it is no money: `12.50 kg`. */
const unit = /^(?:kg|g|t|m|mm|cm|km|l|ml|h|hrs?|hours|days?|%|pcs|kwh)$/u;

/** A value of that kind that begins at a word. @param most of so many words at most */
export function readAt(
  kind: SingleKind,
  words: readonly Word[],
  from: number,
  most = longest[kind],
): { readonly read: Read; readonly words: readonly Word[] } | null {
  for (let length = Math.min(most, words.length - from); length > 0; length -= 1) {
    const some = words.slice(from, from + length);
    const text = textOf(some).replaceAll(/^[:#]+\s*|[,;:.]+$/gu, '');
    const read = readers[kind](text);
    if (kind === 'amount' && unit.test(words[from + length]?.key ?? '')) continue;
    if (read) return { read: { ...read, words: text }, words: some };
  }
  return null;
}

function readDay(text: string): Omit<Read, 'words'> | null {
  const [only, ...more] = writtenIn(text);
  const day = asDayPeriod(only?.keys[0] ?? '');
  if (!only || more.length > 0 || only.index !== 0 || only.length !== text.length || day?.length !== 10) return null;
  return { value: day, currency: null };
}

function readAmount(text: string): Omit<Read, 'words'> | null {
  const money = readMoney(text);
  return money && (money.exact || money.currency !== null) ? { value: money.value, currency: money.currency } : null;
}

/** Letters and digits with at most joining signs between them, a digit among them. */
const numberForm = /^(?=.*\d)[\p{L}\p{N}](?:[\p{L}\p{N}/._-]{1,28})[\p{L}\p{N}]$/u;

/** A number with blanks in it, as `LD 47 118`. */
const piecesOfNumber = /^[\p{Lu}\p{N}/._ -]+$/u;

function readNumber(text: string): Omit<Read, 'words'> | null {
  const bare = text.replace(/^(?:no|nr)[.:]/iu, '');
  if (bare.includes(' ') && !piecesOfNumber.test(bare)) return null;
  if (!numberForm.test(bare.replaceAll(' ', '')) || readDay(bare) || /^\d{1,3}(?:[.,]\d{3})*[.,]\d{2}$/u.test(bare))
    return null;
  return { value: bare, currency: null };
}

const readers: Readonly<Record<SingleKind, (text: string) => Omit<Read, 'words'> | null>> = {
  number: readNumber,
  day: readDay,
  due: readDay,
  amount: readAmount,
};
