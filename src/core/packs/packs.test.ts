import fc from 'fast-check';
import { copyRuns, leftOutOf, pageAtPlace, placeInCopy } from './copies';
import { contentsLines, layOut } from './layout';
import { leftOutInWords } from './letIn';
import type { LaidEntry } from './model';
import { laidEntries, newEntries, paperPages } from './record';
import { asRanges, readPageChoice } from './pageChoice';

const section = (id: string, parentId: string | null = null): LaidEntry => ({
  id,
  parentId,
  kind: 'section',
  title: id,
  pages: 0,
});
const paper = (id: string, parentId: string | null, pages: number | null): LaidEntry => ({
  id,
  parentId,
  kind: 'paper',
  title: id,
  pages,
});
const entries = [
  section('Opening'),
  paper('minutes', 'Opening', 3),
  section('Works'),
  paper('tender', 'Works', 10),
  paper('model', 'Works', null),
  section('Close'),
];
const read = (text: string, pages: number | null) => {
  const outcome = readPageChoice(text, pages);
  return outcome.ok ? outcome.value : outcome.issue.fields?.[0]?.path;
};

describe('which pages of a paper', () => {
  it('are read as people write them', () => {
    expect(read('', 3)).toEqual([1, 2, 3]);
    expect(read('1-3, 7', 9)).toEqual([1, 2, 3, 7]);
    expect(read('8-', 9)).toEqual([8, 9]);
    expect(read('7, 2–3', 9)).toEqual([7, 2, 3]);
    expect(read('3', null)).toEqual([]);
  });

  it.each(['0', '3-1', '4-10', '10', 'a', '1,,2', '1 2', '-3', '1-2-3'])('refuses “%s” of nine pages', (text) => {
    expect(read(text, 9)).toBe('pages');
  });

  it('are told to the program that joins them, in runs', () => {
    expect(asRanges([1, 2, 3, 7, 9, 10])).toBe('1-3,7,9-10');
    expect(asRanges([3, 2, 1])).toBe('3,2,1');
    expect(asRanges([])).toBe('');
  });
});

describe('a pack', () => {
  it('is laid out in order, by hand: cover, contents, sheets, papers, and the files without pages last', () => {
    const { parts, lines, total } = layOut(entries, { sheets: true });
    expect(parts.map(({ kind, entryId, from, pages }) => [kind, entryId, from, pages])).toEqual([
      ['cover', null, 1, 1],
      ['contents', null, 2, 1],
      ['sheet', 'Opening', 3, 1],
      ['paper', 'minutes', 4, 3],
      ['sheet', 'Works', 7, 1],
      ['paper', 'tender', 8, 10],
      ['files', null, 18, 1],
    ]);
    expect(lines.map(({ title, depth, page }) => [title, depth, page])).toEqual([
      ['Opening', 1, 3],
      ['minutes', 2, 4],
      ['Works', 1, 7],
      ['tender', 2, 8],
      ['model', 2, null],
      // Nothing in it: it has no sheet.
      ['Close', 1, null],
      ['Files without pages', 1, 18],
    ]);
    expect(total).toBe(18);
  });

  it('has sections begin where their first pages do where there are no sheets; an empty one has no page', () => {
    const { lines, total } = layOut(entries, { sheets: false });
    expect(lines.map(({ page }) => page)).toEqual([3, 3, 6, 6, null, null, 16]);
    expect(total).toBe(16);
  });

  it('has as many pages of contents as its lines take, and goes on where a supplement does', () => {
    const many = Array.from({ length: contentsLines + 1 }, (_entry, at) => paper(`p${at}`, null, 1));
    const { parts, total } = layOut(many, { sheets: false, firstPage: 101 });
    expect(parts.slice(0, 3).map(({ from, pages }) => [from, pages])).toEqual([
      [101, 1],
      [102, 2],
      [104, 1],
    ]);
    expect(total).toBe(contentsLines + 4);
  });
});

describe('a supplement', () => {
  const entry = (id: string, parentId: string | null, versionId: string | null) => ({
    ...{ id, parentId, title: id, documentId: versionId, versionId, fileName: '', readers: null },
    kind: versionId === null ? ('section' as const) : ('paper' as const),
    pages: [1],
  });
  const all = [
    entry('S', null, null),
    entry('a', 'S', 'a1'),
    entry('T', 'S', null),
    entry('b', 'T', 'b2'),
    entry('U', null, null),
  ];

  it('has the papers that were not issued in this version, with the sections that they lie in', () => {
    expect(newEntries(all, [entry('a', null, 'a1'), entry('b', null, 'b1')]).map(({ id }) => id)).toEqual([
      'S',
      'T',
      'b',
    ]);
    expect(newEntries(all, all)).toEqual([]);
  });
});

describe('somebody’s copy', () => {
  const guarded = entries.map(({ id, parentId }) => ({
    id,
    parentId,
    documentId: id === id.toLowerCase() ? id : null,
    readers: id === 'Works' ? new Set(['chair']) : null,
  }));
  const sees = (...seen: string[]) => ({ knowsAll: false, maySee: (id: string) => seen.includes(id) });

  it('leaves out what is confidential with all that lies in it, and papers that they may not see', () => {
    expect(leftOutOf(guarded, 'reader', sees('minutes', 'tender', 'model'))).toEqual(['Works', 'tender', 'model']);
    expect(leftOutOf(guarded, 'chair', sees('tender', 'model'))).toEqual(['minutes']);
    // Who may change the pack knows of all, and still sees no paper that is not open to them.
    expect(leftOutOf(guarded, 'secretary', { knowsAll: true, maySee: () => false })).toEqual([
      'minutes',
      'tender',
      'model',
    ]);
  });

  it('keeps the numbers of the whole pack, with a sheet for each run of pages that is left out', () => {
    const plan = layOut(entries, { sheets: true });
    const runs = copyRuns(plan, new Set(['Works', 'tender', 'model']));
    expect(runs).toEqual([
      { kind: 'pages', from: 1, to: 6 },
      { kind: 'leftOut', from: 7, to: 17 },
      { kind: 'pages', from: 18, to: 18 },
    ]);
    const onward = { firstPage: 1 };
    expect(leftOutInWords(onward, { from: 7, to: 17 })).toBe('Pages 7 to 17 are not part of your copy.');
    expect([6, 7, 17, 18].map((page) => placeInCopy(runs, page))).toEqual([6, null, null, 8]);
    expect(leftOutInWords(onward, { from: 4, to: 4 })).toBe('Page 4 is not part of your copy.');
  });

  it('has every page once, kept or left out, whatever is left out', () => {
    const ids = entries.map(({ id }) => id);
    fc.assert(
      fc.property(fc.subarray(ids), fc.boolean(), (out, sheets) => {
        const plan = layOut(entries, { sheets });
        const runs = copyRuns(plan, new Set(out));
        const pages = runs.flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_page, at) => from + at));
        expect(pages).toEqual(Array.from({ length: plan.total }, (_page, at) => at + 1));
        const places = pages.map((page) => placeInCopy(runs, page)).filter((place) => place !== null);
        expect([...new Set(places)].sort((a, b) => a - b)).toEqual(places);
        // And the way back leads to the same page.
        expect(places.map((place) => pageAtPlace(runs, place))).toEqual(
          pages.filter((page) => placeInCopy(runs, page) !== null),
        );
      }),
      { seed: 11, numRuns: 200 },
    );
  });
});

describe('the pages of papers', () => {
  it('are those that were chosen, at their numbers in the pack', () => {
    const issued = (id: string, pages: readonly number[] | null) => ({
      id,
      parentId: null,
      kind: 'paper' as const,
      title: id,
      documentId: `d ${id}`,
      versionId: `v ${id}`,
      fileName: '',
      pages,
      readers: null,
    });
    const all = [issued('plan', [2, 5]), issued('model', null), issued('tender', [1])];
    const plan = layOut(laidEntries(all), { sheets: true });
    expect(paperPages(plan, all).map(({ number, entry, page }) => [number, entry.versionId, page])).toEqual([
      [3, 'v plan', 2],
      [4, 'v plan', 5],
      [5, 'v tender', 1],
    ]);
    expect(pageAtPlace([{ kind: 'leftOut', from: 1, to: 9 }], 1)).toBe(null);
    expect(pageAtPlace([{ kind: 'pages', from: 1, to: 9 }], 10)).toBe(null);
  });
});
