import { placedLines } from './rows';
import { statedIn } from './stated';
import { taughtBy } from './taught';
import type { SingleKind, Taught } from './model';

const around = { names: '', arrivedOn: '2026-11-20' };
const paper = (...lines: readonly string[]) => [placedLines(lines.join('\n'))];
const told = (kind: SingleKind, pages: ReturnType<typeof paper>, taught: readonly Taught[] = []) => {
  const found = statedIn(pages, { ...around, taught }).find((each) => each.kind === kind);
  return found && [found.value, found.by, found.isTaught];
};
/** What a second paper is told to state once the first was filed with a value. */
const learnt = (kind: SingleKind, value: string, first: readonly string[], second: readonly string[]) => {
  const taught = taughtBy(paper(...first), kind, value);
  return told(kind, paper(...second), taught ? [taught] : []);
};

describe('what a filed paper teaches', () => {
  it.each([
    ['before it', ['Docket 47/A of our yard'], ['Docket 51/B of our yard']],
    ['in the cell before it', ['Docket          47/A'], ['Docket          51/B']],
    ['above it', ['Yard      Docket', 'West      47/A'], ['Yard      Docket', 'West      51/B']],
    ['with a word between that links', ['Docket is 47/A'], ['Docket is 51/B']],
  ])('the words %s', (_where, first, second) => {
    expect(told('number', paper(...second))).toBeUndefined();
    expect(learnt('number', '47/A', first, second)?.slice(0, 1)).toEqual(['51/B']);
    expect(learnt('number', '47/A', first, second)?.[2]).toBe(true);
  });

  it('comes before what is known: who corrected it knew', () => {
    const first = ['Invoice number: 1001', 'Docket: 47/A'];
    const second = ['Invoice number: 1002', 'Docket: 51/B'];
    expect(told('number', paper(...second))?.[0]).toBe('1002');
    expect(learnt('number', '47/A', first, second)).toEqual(['51/B', 'Docket', true]);
  });

  it('numbers with blanks in them, which are else taken for several words', () => {
    const first = ['Docket: LD 47 118', 'Thank you'];
    const second = ['Docket: LD 51 220', 'Thank you'];
    expect(taughtBy(paper(...first), 'number', 'LD 47 118')).toEqual({ kind: 'number', words: ['docket'], length: 3 });
    expect(learnt('number', 'LD 47 118', first, second)).toEqual(['LD 51 220', 'Docket', true]);
    // Words are no pieces of a number.
    expect(learnt('number', 'LD 47 118', first, ['Docket: LD 51 thanks'])?.[0]).not.toBe('LD 51 thanks');
  });

  it('days and amounts, in whatever form the next paper has them', () => {
    expect(learnt('day', '2026-11-03', ['Written at sea 3 November 2026'], ['Written at sea 09/11/2026'])).toEqual([
      '2026-11-09',
      'Written at sea',
      true,
    ]);
    const first = ['Sum of it all £12.50', 'Deposit £900.00'];
    const second = ['Sum of it all £13.70', 'Deposit £900.00'];
    expect(told('amount', paper(...second))).toBeUndefined();
    expect(learnt('amount', '12.50', first, second)?.[0]).toBe('13.70');
  });

  it('nothing where the value does not stand there, nothing stands by it, or the words say something else', () => {
    expect(taughtBy(paper('Docket 47/A'), 'number', '48/A')).toBeNull();
    expect(taughtBy(paper('47/A'), 'number', '47/A')).toBeNull();
    expect(taughtBy(paper('1,200 to 47/A'), 'number', '47/A')).toBeNull();
    expect(taughtBy(paper('Account number: 47/A'), 'number', '47/A')).toBeNull();
    expect(taughtBy(paper('Settle by 3 November 2026'), 'day', '2026-11-03')?.words).toEqual(['settle']);
    expect(taughtBy(paper('Deadline: 3 November 2026'), 'day', '2026-11-03')).toBeNull();
    expect(taughtBy(paper('Deadline: 3 November 2026'), 'due', '2026-11-03')?.words).toEqual(['deadline']);
    expect(taughtBy([], 'number', '47/A')).toBeNull();
  });

  it('is found in the time that reading takes, on a page made to take long', () => {
    const page = placedLines(Array.from({ length: 1000 }, () => 'docket 1 2 3 4 5 6 7 8 9').join('\n'));
    const time = (act: () => unknown) => {
      const began = performance.now();
      act();
      return performance.now() - began;
    };
    const plain = time(() => statedIn([page], around));
    expect(time(() => taughtBy([page], 'number', 'nowhere-1'))).toBeLessThan(5 * plain + 200);
    const taught = [{ kind: 'number', words: ['docket'], length: 4 }] as const;
    expect(time(() => statedIn([page], { ...around, taught }))).toBeLessThan(5 * plain + 200);
  });
});
