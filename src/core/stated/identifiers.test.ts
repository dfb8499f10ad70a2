import fc from 'fast-check';
import { identifiersIn } from './identifiers';

const values = (text: string) => identifiersIn(text).map(({ value }) => value);

describe('bank accounts', () => {
  // Examples of the IBAN registry (SWIFT, ISO 13616), from memory.
  it.each([
    'GB29 NWBK 6016 1331 9268 19',
    'DE89 3704 0044 0532 0130 00',
    'FR14 2004 1010 0505 0001 3M02 606',
    'NL91ABNA0417164300',
    'NO93 8601 1117 947',
    'CH93 0076 2011 6238 5295 7',
    'BE68 5390 0754 7034',
  ])('%s is one', (text) => {
    expect(identifiersIn(`Please pay into ${text} by Friday`)).toEqual([
      { kind: 'bank', value: text.replaceAll(' ', '') },
    ]);
  });

  it('with a wrong digit are none: every single digit that differs is noticed (ISO 7064, MOD 97-10)', () => {
    const right = 'GB29NWBK60161331926819';
    fc.assert(
      fc.property(fc.integer({ min: 8, max: right.length - 1 }), fc.integer({ min: 1, max: 9 }), (at, by) => {
        const digit = String((Number(right[at]) + by) % 10);
        expect(values(`${right.slice(0, at)}${digit}${right.slice(at + 1)}`)).toEqual([]);
      }),
      { seed: 5, numRuns: 100 },
    );
  });
});

describe('tax numbers', () => {
  // The examples with which python-stdnum and stdnum-js document their checks of each country’s published rules.
  it.each(['GB 980 7806 84', 'DE 136 695 976', 'NL 4495445B01', 'BE 428759497', 'PL 8567346215', 'FR 40303265045'])(
    '%s is one',
    (text) => {
      expect(identifiersIn(`VAT no ${text}, registered here`)).toEqual([
        { kind: 'tax', value: text.replaceAll(' ', '') },
      ]);
    },
  );

  it.each(['GB 980 7806 85', 'DE 136 695 977', 'ZZ 136695976', 'INVOICE NO 44170', 'PO-9921', 'TOTAL DUE 1284'])(
    '%s is none',
    (text) => {
      expect(values(text)).toEqual([]);
    },
  );
});

it('tells each once, and of a long list only the first', () => {
  expect(values('GB980780684 GB980780684')).toEqual(['GB980780684']);
  const start = performance.now();
  expect(values('GB12 3456 '.repeat(20_000)).length).toBeLessThan(7);
  expect(performance.now() - start).toBeLessThan(2000);
});
