import { namesWords } from '../text/namesWords';
import { searchKey } from '../text/fold';
import type { Around, Candidate } from './model';

/** Whether something else in the paper, or beside it, bears a value out. */
export function bearsOut({ kind, value }: Candidate, found: readonly Candidate[], { names }: Around): boolean {
  if (kind === 'number') return named(searchKey(names), searchKey(value));
  return kind === 'amount' && isSum(value, found);
}

/** As a word of its own: `17` does not stand in `2017`. */
const named = (names: string, value: string): boolean => namesWords(names, value) && value.length > 2;

/** Whether two other amounts of the paper add up to it, net and tax: the tax is the smaller by far. */
function isSum(value: string, found: readonly Candidate[]): boolean {
  const cents = (text: string) => Math.round(Number(text) * 100);
  const whole = cents(value);
  const amounts = new Set(found.filter(({ kind }) => kind === 'amount').map((each) => cents(each.value)));
  return [...amounts].some((each) => each > 0 && each <= whole * greatestTax && amounts.has(whole - each));
}

/** Of what is paid in all (the Union’s and Britain’s rates of VAT are at most 27 %). */
const greatestTax = 27 / 127;
