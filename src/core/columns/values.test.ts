import fc from 'fast-check';
import iso4217 from '@iso4217/json/data.json';
import { asText, inWords, type Names } from './format';
import { convertValues } from './convert';
import { currencyDecimals } from './currency';
import { Lexicon } from './lexicon';
import { sameValue, type Column, type ColumnType, type Term, type Value } from './model';
import { checkValue, readText, type Vocabulary } from './read';

const term = (id: string, name: string, more: Partial<Term> = {}): Term => ({
  id,
  listId: 'list',
  parentId: null,
  name,
  otherNames: [],
  position: Number(id.replace(/\D/gu, '')) || 0,
  retired: false,
  ...more,
});
const terms = [
  term('t1', 'Finance', { otherNames: ['Money', 'Accounts'] }),
  term('t2', 'Audit', { parentId: 't1' }),
  term('t3', 'Works'),
  term('t4', 'Audit', { parentId: 't3' }),
  term('t5', 'Café Marée'),
  term('t6', 'Straße'),
];
const lexicon = new Lexicon(terms);
const people = new Map([
  ['maren tolliver', 'p1'],
  ['maren@saltmarrow.example', 'p1'],
]);
const vocabulary: Vocabulary = {
  terms: (listId) => (listId === 'list' ? lexicon : undefined),
  person: (words) => people.get(words.toLowerCase()) ?? null,
  dossier: (words) => (words === 'T-014' ? 'd1' : words === 'Twice' ? 'several' : null),
  document: () => null,
};
const names: Names = { terms: vocabulary.terms, named: (id) => ({ p1: 'Maren Tolliver', d1: 'T-014' })[id] };

const column = (type: ColumnType, more: Partial<Column> = {}): Column => ({
  id: 'c',
  placeId: 'place',
  name: 'Committee',
  help: '',
  type,
  listId: type === 'choice' || type === 'choices' ? 'list' : null,
  open: false,
  unit: '',
  decimals: null,
  currency: type === 'amount' ? 'GBP' : '',
  required: false,
  meaning: 'none',
  defaultValue: null,
  position: 1,
  retired: false,
  revision: 0,
  ...more,
});
const read = (of: Column, text: string) => {
  const result = readText(of, text, vocabulary);
  return result.ok ? (result.value.kind === 'value' ? result.value.value : result.value) : result.issue.says;
};

describe('a value from a closed list', () => {
  it.each(['Finance', ' finance ', 'FINANCE', 'money', 'Accounts', 'fínance'])('is found by %j', (text) => {
    expect(read(column('choice'), text)).toBe('t1');
  });

  it('is found by its way from the top where its name alone leads elsewhere', () => {
    expect(read(column('choice'), 'Audit')).toBe('t2');
    expect(read(column('choice'), 'works > audit')).toBe('t4');
    expect(asText(column('choice'), 't4', names)).toBe('Works > Audit');
  });

  it('may have a semicolon in its name, among several too; a cell full of semicolons takes no time', () => {
    const withSign = new Lexicon([...terms, term('t9', 'Bids; tenders'), term('t8', 'Bids')]);
    const found = (text: string) => {
      const read = readText(column('choices'), text, { ...vocabulary, terms: () => withSign });
      return read.ok && read.value.kind === 'value' ? read.value.value : null;
    };
    expect(found('works; bids; tenders;finance')).toEqual(['t1', 't3', 't9']);
    expect(found('bids; works')).toEqual(['t3', 't8']);
    const begun = performance.now();
    expect(found(';'.repeat(40_000))).toBeNull();
    expect(performance.now() - begun).toBeLessThan(1000);
  });

  it('is compared without regard to case and accents, after Unicode: ß meets SS, é meets e', () => {
    expect(read(column('choice'), 'STRASSE')).toBe('t6');
    expect(read(column('choice'), 'cafe maree')).toBe('t5');
    expect(read(column('choice'), 'Cafe\u0301 Mare\u0301e')).toBe('t5');
  });

  it('is refused where it is not on the list, unless the list is open', () => {
    expect(read(column('choice'), 'Finanse')).toBe('“Finanse” is not on the list of Committee.');
    expect(read(column('choice', { open: true }), 'Pilots')).toEqual({ kind: 'new-terms', ids: [], names: ['Pilots'] });
  });

  it('comes several at a time by semicolons, each once, in the order of the list', () => {
    expect(read(column('choices'), 'works; Money;;finance')).toEqual(['t1', 't3']);
    expect(read(column('choices'), ' ; ')).toBeNull();
  });
});

describe('other values', () => {
  it.each([
    [column('amount'), '£1,234.50', 1234.5],
    [column('amount'), '-£5', -5],
    [column('amount'), '1234.50 GBP', 1234.5],
    [column('amount', { currency: 'JPY' }), '12.5', '“12.5” has decimals; only whole numbers fit here.'],
    [column('number', { unit: 'm' }), '12.5 m', 12.5],
    [column('number', { decimals: 1 }), '12.55', '“12.55” has more than 1 decimals.'],
    [column('yesNo'), 'Yes', true],
    [column('yesNo'), 'n', false],
    [column('yesNo'), 'perhaps', '“perhaps” is neither yes nor no.'],
    [column('text'), ' one\nline ', 'one line'],
    [column('longText'), 'two\r\nlines', 'two\nlines'],
    [column('text'), 'bell\u0007', 'The text holds a character that cannot be shown. Type it again without it.'],
    [column('text'), 'x'.repeat(500), 'The text has 500 characters; at most 400 fit.'],
    [column('person'), 'maren@saltmarrow.example', 'p1'],
    [column('dossier'), 'Twice', 'More than one dossier goes by “Twice”. Type its reference, or its whole name.'],
    [column('document'), 'x', 'No paper that you may know of goes by “x”. Type its whole title, or paste its address.'],
    [column('date'), '', null],
  ])('%#: read as they should be', (of, text, expected) => {
    expect(read(of, text)).toEqual(expected);
  });

  it('are shown for people with their unit, currency and names', () => {
    expect(inWords(column('amount'), 1234.5, names)).toBe('£1,234.50');
    expect(inWords(column('amount', { currency: 'JPY' }), 1234, names)).toBe('JP¥1,234');
    expect(inWords(column('number', { unit: 'm', decimals: 1 }), 1200, names)).toBe('1,200.0 m');
    expect(inWords(column('choices'), ['t1', 't5'], names)).toBe('Finance, Café Marée');
    expect(inWords(column('person'), 'p1', names)).toBe('Maren Tolliver');
    expect(inWords(column('document'), 'hidden', names)).toBe('not open to you');
    expect(inWords(column('date'), '2026-07-04', names)).toBe('4 Jul 2026');
  });

  it('come back the same from their text, whatever they are', () => {
    const of: Record<string, fc.Arbitrary<Value>> = {
      choice: fc.constantFrom('t1', 't2', 't3', 't4', 't5', 't6'),
      choices: fc.subarray(['t1', 't2', 't3', 't4', 't5', 't6'], { minLength: 1 }),
      number: fc.integer({ min: -1e9, max: 1e9 }).map((whole) => (whole === 0 ? 0 : whole / 1000)),
      amount: fc.integer({ min: -1e9, max: 1e9 }).map((pence) => (pence === 0 ? 0 : pence / 100)),
      date: fc.integer({ min: 0, max: 60_000 }).map((days) => new Date(days * 86_400_000).toISOString().slice(0, 10)),
      yesNo: fc.boolean(),
      text: fc
        .string({ unit: 'grapheme', maxLength: 60 })
        .map((text) => text.normalize('NFC').replace(/\s+/gu, ' ').trim())
        .filter((text) => text !== '' && !/[\u0000-\u001f\u007f\u2028\u2029]/u.test(text)),
    };
    for (const [type, values] of Object.entries(of)) {
      fc.assert(
        fc.property(values, (value) => {
          const back = read(column(type as ColumnType), asText(column(type as ColumnType), value, names));
          expect(sameValue(back as Value, value)).toBe(true);
        }),
        { seed: 13, numRuns: 200 },
      );
    }
  });

  it('are checked where they come as values: none of another type gets through', () => {
    const check = (type: ColumnType, value: unknown) => checkValue(column(type), value, vocabulary).ok;
    expect(check('choice', 't1')).toBe(true);
    expect(check('choice', 'nowhere')).toBe(false);
    expect(check('choices', ['t1', 'nowhere'])).toBe(false);
    expect(check('number', Number.NaN)).toBe(false);
    expect(check('number', '5')).toBe(false);
    expect(check('date', '2026-02-30')).toBe(false);
    expect(check('date', '14 Jul 2026')).toBe(false);
    expect(check('yesNo', 'yes')).toBe(false);
    expect(check('person', 'someone')).toBe(false);
    expect(check('text', null)).toBe(true);
  });
});

describe('a change of type', () => {
  it('says what converts, what would be lost, and what a list lacks', () => {
    const values = [
      { value: '12', papers: 3 },
      { value: 'about ten', papers: 2 },
    ];
    expect(convertValues(column('text'), column('number'), values, names, vocabulary)).toMatchObject({
      converts: [{ from: '12', value: 12, papers: 3 }],
      lost: [{ text: 'about ten', papers: 2 }],
    });
    const spelled = [
      { value: 'finance', papers: 1 },
      { value: 'Finanse', papers: 4 },
    ];
    expect(convertValues(column('text'), column('choice'), spelled, names, vocabulary)).toMatchObject({
      converts: [{ value: 't1' }],
      newTerms: ['Finanse'],
    });
  });
});

describe('currencies', () => {
  it('have the decimals that ISO 4217 gives them (list one of its maintenance agency, npm @iso4217/json)', () => {
    interface Node {
      $name: string;
      $data: string | number | Node[];
    }
    const field = (entry: Node, name: string) =>
      Array.isArray(entry.$data) ? entry.$data.find((each) => each.$name === name)?.$data : undefined;
    const table = (iso4217 as unknown as Node).$data;
    const entries = Array.isArray(table) && Array.isArray(table[0]?.$data) ? table[0].$data : [];
    const published = new Map<string, number>();
    for (const entry of entries) {
      const [code, unit] = [field(entry, 'Ccy'), field(entry, 'CcyMnrUnts')];
      if (typeof code === 'string' && typeof unit === 'number') published.set(code, unit);
    }
    expect(published.size).toBeGreaterThan(150);
    const known = [...published].filter(([code]) => currencyDecimals(code) !== null);
    expect(known.length).toBeGreaterThan(150);
    expect(known.filter(([code, digits]) => currencyDecimals(code) !== digits)).toEqual([]);
    expect(currencyDecimals('XYZ')).toBeNull();
  });
});
