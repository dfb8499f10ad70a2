import fc from 'fast-check';
import { nameKey } from '../text/fold';
import { planDossiers, readDossierText, type SeriesNames } from './dossierRows';
import { readPattern } from './reference';

const pattern = readPattern('T-###', 2026);
const empty: SeriesNames = {
  nameKeys: new Set(),
  references: [],
  pattern: pattern.ok ? pattern.value : null,
  fields: [],
  findPerson: () => null,
};
const said = (text: string, series: SeriesNames = empty) =>
  planDossiers(text, series).map(
    ({ line, name, reference, wrong }) => `${line} ${reference ?? '-'} ${name}${wrong === null ? '' : `: ${wrong}`}`,
  );

it('takes a name a line, commas and all, and gives each the next reference', () => {
  expect(said('Ardent Oysters\n\n  Rope, Chain & Co\r\nCafé Marée\n')).toEqual([
    '1 T-001 Ardent Oysters',
    '3 T-002 Rope, Chain & Co',
    '4 T-003 Café Marée',
  ]);
});

it('takes a block from a spreadsheet and a CSV, with a heading in any order or without', () => {
  expect(said('Ardent\tT-007\nCockle\t')).toEqual(['1 T-007 Ardent', '2 T-008 Cockle']);
  expect(said('Reference,Name\r\nT-009,"Rope, Chain & Co"\r\n,Cockle')).toEqual([
    '2 T-009 Rope, Chain & Co',
    '3 T-010 Cockle',
  ]);
  expect(said('name;ref\nArdent;A/1')).toEqual(['2 A/1 Ardent']);
});

it('says line by line what is wrong, and leaves the rest ready', () => {
  const series = { ...empty, nameKeys: new Set([nameKey('Ardent')]), references: ['T-003'] };
  expect(
    said('name\treference\nARDENT\t\nCockle\tT-003\nMarl\tT-004\nTern\tt-004\nMarl\t\n\tT-006\nWrack\t!!', series),
  ).toEqual([
    '2 - ARDENT: A dossier of that name is in the series already.',
    '3 T-003 Cockle: That reference is in use in the series.',
    '4 T-004 Marl',
    '5 t-004 Tern: The same reference stands on line 4.',
    '6 - Marl: The same name stands on line 4.',
    '7 T-006 : A name is needed: at least one visible letter.',
    '8 - Wrack: A reference takes 1 to 40 letters, digits, blanks and - . / _.',
  ]);
});

it('reads details under their names, and gives no reference to a line whose details are wrong', () => {
  const series: SeriesNames = {
    ...empty,
    fields: [
      { id: 'c', name: 'Contact', kind: 'text', choices: [] },
      { id: 's', name: 'Berthed since', kind: 'started', choices: [] },
      { id: 'o', name: 'Officer', kind: 'officer', choices: [] },
    ],
    findPerson: (words) => (words === 'Oona Marsh' ? 'p-oona' : null),
  };
  const text =
    'berthed since,Name,OFFICER,Contact,Remark\n1 Apr 2024,Ardent,Oona Marsh,"Penrose, Aled",x\n31 Feb 2024,Cockle,,,\n,Tern,Nobody,,\n,Marl,,,';
  expect(said(text, series)).toEqual([
    '2 T-001 Ardent',
    expect.stringMatching(/^3 - Cockle: ./u),
    '4 - Tern: No one colleague is called “Nobody”.',
    '5 T-002 Marl',
  ]);
  expect(planDossiers(text, series)[0]?.details).toEqual({ c: 'Penrose, Aled', s: '2024-04-01', o: 'p-oona' });
});

it('gives no reference that is written on a later line, and none without a pattern', () => {
  expect(said('Ardent\t\nCockle\tT-001')).toEqual(['1 T-002 Ardent', '2 T-001 Cockle']);
  expect(said('Ardent', { ...empty, pattern: null })).toEqual(['1 - Ardent']);
});

it('never gives one name or one reference twice, whatever is pasted', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.tuple(
          fc.constantFrom('Ardent', 'ardent', 'Cockle', 'Tern', 'Marl', ''),
          fc.constantFrom('', 'T-001', 't-001', 'T-4', '!'),
        ),
      ),
      (rows) => {
        const good = planDossiers(rows.map((row) => row.join('\t')).join('\n'), empty).filter(
          (each) => each.wrong === null,
        );
        expect(new Set(good.map((each) => nameKey(each.name))).size).toBe(good.length);
        expect(new Set(good.map((each) => each.reference?.toUpperCase())).size).toBe(good.length);
      },
    ),
  );
});

it('reads nothing out of nothing', () => {
  expect(readDossierText('')).toEqual([]);
  expect(readDossierText('\n \n')).toEqual([]);
});
