import type { Stated } from '../stated/model';
import type { Invoice } from './model';

/** What the data says is what its sender means. It was never wrong where it was compared, and nothing is certain. */
const sure = 0.99;

/** What is less surely read off a page is no reason to doubt the data. */
const surelyRead = 0.8;
const kindWords: Readonly<Record<Stated['kind'], string>> = {
  number: 'number',
  day: 'day',
  due: 'day of payment',
  amount: 'amount',
  period: 'period',
};

/** Where the pages of a bill read otherwise than its data: whoever pays looks at one of them, and a program at the other. */
export const differingOnPage = (data: readonly Stated[], onPage: readonly Stated[]): string[] =>
  data.flatMap(({ kind, value }) => {
    const read = onPage.find((each) => each.kind === kind);
    const isSame = read?.value === value || (kind === 'amount' && Number(read?.value) === Math.abs(Number(value)));
    return !read || read.sure < surelyRead || isSame
      ? []
      : [`The page reads “${read.words}” as its ${kindWords[kind]}, and its data has ${value}.`];
  });

/** What a bill states as data. Its amount is the total with tax, whatever of it was paid already. */
export function statedByData({ number, day, due, period, currency, isCredit, totals: { gross } }: Invoice): Stated[] {
  const told = { currency: null, by: null, page: 1, spot: null, sure, isData: true } as const;
  const amount = ((isCredit ? -gross : gross) / 100).toFixed(2);
  return [
    { ...told, kind: 'number', value: number, words: number },
    { ...told, kind: 'day', value: day, words: day },
    ...(due === null ? [] : [{ ...told, kind: 'due' as const, value: due, words: due }]),
    { ...told, kind: 'amount', value: amount, currency, words: amount },
    ...(period === null
      ? []
      : [{ ...told, kind: 'period' as const, value: period, words: period.replace('/', ' – ') }]),
  ];
}
