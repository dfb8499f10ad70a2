import type { Stated } from '../stated/model';
import { titleWith } from './title';

const number = (value: string, more: Partial<Stated> = {}): Stated => ({
  ...{ kind: 'number', value, currency: null, words: value, by: 'Invoice no', page: 1, spot: null, sure: 0.9 },
  ...more,
});

it.each([
  ['scan 0034', number('15765'), 'Invoice 15765'],
  ['IMG 20261103', number('B-8'), 'Invoice B-8'],
  ['Scanned document (2)', number('7', { by: 'Credit note no' }), 'Credit note 7'],
  ['Invoice inv-00018', number('INV-00018'), 'Invoice INV-00018'],
  ['invoice', number('INV-4417'), 'Invoice INV-4417'],
  ['Statement October', number('15765'), 'Statement October'],
  ['scan 0034', number('15765', { sure: 0.5 }), 'scan 0034'],
])('%s with %o is %s', (title, stated, as) => {
  expect(titleWith(title, [stated])).toBe(as);
});

it('is left as it is where no number is stated', () => {
  expect(titleWith('scan 0034', [])).toBe('scan 0034');
});
