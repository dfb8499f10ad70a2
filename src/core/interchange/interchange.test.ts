import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import iconv from 'iconv-lite';
import { decodeTable, readBlock, readCsv, writeBlock, writeCsv } from './block';
import { guardCell, unguardCell } from './cell';
import { readSkos, writeSkos, type PlainTerm } from '../columns/skos';
import { readTermTable, termTable } from '../columns/termTable';

const spectrum = path.join(process.cwd(), 'node_modules/csv-spectrum');

describe('CSV', () => {
  // Left out: location_coordinates, whose JSON is not that of its CSV (another telephone number).
  const cases = readdirSync(path.join(spectrum, 'csvs'))
    .map((name) => name.replace(/\.csv$/u, ''))
    .filter((name) => name !== 'location_coordinates');

  it.each(cases)('reads the RFC 4180 case %s as its JSON has it (npm csv-spectrum)', (name) => {
    const [heading = [], ...rows] = readCsv(readFileSync(path.join(spectrum, 'csvs', `${name}.csv`), 'utf8'));
    const expected = JSON.parse(readFileSync(path.join(spectrum, 'json', `${name}.json`), 'utf8')) as Record<
      string,
      string
    >[];
    expect(rows.map((row) => Object.fromEntries(heading.map((key, index) => [key, row[index]])))).toEqual(expected);
  });

  it('comes back the same, whatever the cells hold', () => {
    const cell = fc
      .string({ unit: 'binary', maxLength: 20 })
      .filter((text) => !text.includes('\r') && !text.startsWith('\ufeff'));
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 6 }), (rows) => {
        const kept = rows.map((row, index) => [`row ${index}`, ...row]);
        expect(readCsv(writeCsv(kept, true))).toEqual(kept);
      }),
      { seed: 15, numRuns: 300 },
    );
  });

  it('ends every record as RFC 4180, section 2, has it, and quotes what needs quoting', () => {
    expect(
      writeCsv([
        ['a', 'b "c"'],
        ['d,e', 'f\ng'],
      ]),
    ).toBe('a,"b ""c"""\r\n"d,e","f\ng"\r\n');
  });

  it('is read in UTF-8, with and without its mark, UTF-16 and Windows-1252, with semicolons too', () => {
    expect(decodeTable(new TextEncoder().encode('\ufeffSkärgård'))).toBe('Skärgård');
    expect(decodeTable(Uint8Array.from([0x53, 0x6b, 0xe4, 0x72]))).toBe('Skär');
    expect(decodeTable(Uint8Array.from([0xff, 0xfe, 0x41, 0x00, 0xe9, 0x00]))).toBe('Aé');
    expect(decodeTable(Uint8Array.from([0x80]), (bytes) => iconv.decode(bytes, 'windows-1252'))).toBe('€');
    expect(readCsv('a;b\r\n1,5;2\r\n')).toEqual([
      ['a', 'b'],
      ['1,5', '2'],
    ]);
  });
});

describe('cells that a spreadsheet would run (OWASP, CSV Injection)', () => {
  it.each(['=1+1', '+SUM(A1)', '-2+3', '@SUM(1)', '\t=1', '\r=1', "'=1", '＝1', ';=1+1', ';;  @x', '|=1'])(
    'are made text and come back unharmed: %j',
    (text) => {
      expect(guardCell(text).startsWith("'")).toBe(true);
      expect(unguardCell(guardCell(text))).toBe(text);
    },
  );

  it('are not plain numbers and not ordinary text', () => {
    for (const text of ['-5', '-5.25', 'a=b', "O'Rourke", "'quoted'", '']) expect(guardCell(text)).toBe(text);
  });

  it('come back for any text at all', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom('=', '+', '-', '@', "'", '\t', ';', 'a', '1', '.') }), (text) =>
        expect(unguardCell(guardCell(text))).toBe(text),
      ),
      { seed: 16, numRuns: 2000 },
    );
  });
});

describe('a block from a spreadsheet', () => {
  it('has tabs between cells, and quotes round those with line ends or tabs', () => {
    expect(readBlock('a\tb\r\nc\td\r\n')).toEqual([
      ['a', 'b'],
      ['c', 'd'],
    ]);
    expect(readBlock('"two\nlines"\t"say ""so"""\n')).toEqual([['two\nlines', 'say "so"']]);
    expect(readBlock('')).toEqual([['']]);
    expect(readBlock('one')).toEqual([['one']]);
  });

  it('comes back as it was copied', () => {
    const rows = [
      ['a', 'with\ttab'],
      ['', 'two\nlines'],
      ['"', 'x'],
    ];
    expect(readBlock(writeBlock(rows))).toEqual(rows);
  });
});

describe('controlled lists', () => {
  const terms: PlainTerm[] = [
    { way: ['Finance'], otherNames: ['Money', 'Accounts'], retired: false },
    { way: ['Finance', 'Audit'], otherNames: [], retired: false },
    { way: ['Café Marée'], otherNames: [], retired: true },
  ];

  it('go out as SKOS in JSON-LD and come back', () => {
    const out = readSkos(JSON.stringify(writeSkos('Paper type', terms)));
    expect(out.ok && out.value).toEqual([terms[0], terms[2], terms[1]]);
  });

  it('keep the integrity conditions of the SKOS Reference (W3C, sections 5.4 and 4.4: S13, S14, S9)', () => {
    const graph = (writeSkos('Types', terms) as { '@graph': Record<string, unknown>[] })['@graph'];
    const concepts = graph.filter((node) => node['@type'] === 'skos:Concept');
    expect(concepts).toHaveLength(3);
    for (const concept of concepts) {
      const preferred = (concept['prefLabel'] as { en: unknown }).en;
      expect(typeof preferred).toBe('string');
      expect((concept['altLabel'] as { en: string[] } | undefined)?.en ?? []).not.toContain(preferred);
    }
    // S9: a concept scheme is no concept.
    expect(graph.filter((node) => node['@type'] === 'skos:ConceptScheme')).toHaveLength(1);
    expect(readSkos('{"@graph":[{"@id":"a","@type":"skos:Concept","prefLabel":{"en":["One","Two"]}}]}')).toMatchObject({
      ok: false,
    });
    expect(
      readSkos('{"@graph":[{"@id":"a","@type":"skos:Concept","prefLabel":{"en":"One"},"altLabel":{"en":"One"}}]}'),
    ).toMatchObject({ ok: false });
  });

  it('refuse circles, and what is no SKOS', () => {
    const circle =
      '{"@graph":[{"@id":"a","@type":"skos:Concept","prefLabel":{"en":"A"},"broader":"b"},{"@id":"b","@type":"skos:Concept","prefLabel":{"en":"B"},"broader":"a"}]}';
    expect(readSkos(circle)).toMatchObject({ ok: false });
    for (const text of ['', '{}', '[]', 'null', '{"@graph":[]}']) expect(readSkos(text)).toMatchObject({ ok: false });
  });

  it('go out as CSV and come back; a plain list of values will do', () => {
    const back = readTermTable(writeCsv(termTable(terms)));
    expect(back.ok && back.value).toEqual(terms);
    expect(readTermTable('Agenda\nMinutes\n')).toMatchObject({
      ok: true,
      value: [{ way: ['Agenda'] }, { way: ['Minutes'] }],
    });
    expect(readTermTable('')).toMatchObject({ ok: false });
  });
});
