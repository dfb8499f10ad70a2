import fc from 'fast-check';
import { cutFault, isBlank, papersBetween, readSheet, sheetSays, type Separator, type Turn } from './cut';

const sheet = (reference: string | null = null): Separator => ({ kind: 'sheet', reference });
const blank: Separator = { kind: 'blank' };
const between = (pages: number, ...separators: [number, Separator][]) =>
  papersBetween(pages, new Map(separators))?.map(({ pages: its, reference }) => [
    its.map(({ page }) => page),
    reference,
  ]);

describe('a stack', () => {
  it('is taken apart at separator sheets, each with the dossier that its sheet says', () => {
    expect(between(7, [1, sheet('S-017')], [4, sheet()], [6, sheet('T-001')])).toEqual([
      [[2, 3], 'S-017'],
      [[5], null],
      [[7], 'T-001'],
    ]);
  });

  it('makes no paper without pages, and leaves a stack without separators as it is', () => {
    expect(between(5, [1, blank], [2, blank], [4, sheet()], [5, sheet()])).toEqual([[[3], null]]);
    expect(between(3)).toBeUndefined();
    expect(between(2, [1, blank], [2, blank])).toBeUndefined();
  });

  it('every page goes into one paper, in its order, or is a separator', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.uniqueArray(fc.integer({ min: 1, max: 60 })), (pages, at) => {
        const separators = new Map(at.filter((page) => page <= pages).map((page) => [page, blank]));
        const papers = papersBetween(pages, separators) ?? [];
        const kept = papers.flatMap((paper) => paper.pages.map(({ page }) => page));
        const expected = Array.from({ length: pages }, (_none, index) => index + 1).filter(
          (page) => !separators.has(page),
        );
        if (papers.length > 0) expect(kept).toEqual(expected);
        expect(papers.every((paper) => paper.pages.length > 0)).toBe(true);
      }),
    );
  });
});

describe('a barcode', () => {
  it('is a separator sheet’s if it says so, with a reference or without', () => {
    expect(readSheet(sheetSays(null))).toEqual(sheet());
    expect(readSheet(`${sheetSays('S-017')}\n`)).toEqual(sheet('S-017'));
  });

  it.each(['../../etc', 'EMBRIN NEXT ../../etc', 'EMBRIN NEXT S-017; rm', '4006381333931', '', 'embrin next'])(
    'that says “%s” is none of ours',
    (says) => {
      expect(readSheet(says)).toBeNull();
    },
  );
});

describe('a page', () => {
  const page = (ink: number) => {
    const grey = new Uint8Array(200 * 300).fill(250);
    for (let at = 0; at < ink; at += 1) grey[100 * 200 + 20 + at] = 20;
    return grey;
  };
  it('is blank with dust on it and shadows at its edge, and is not with a line of words', () => {
    expect(isBlank(page(0), 200, 300)).toBe(true);
    expect(isBlank(page(10), 200, 300)).toBe(true);
    expect(isBlank(page(120), 200, 300)).toBe(false);
    const edge = new Uint8Array(200 * 300).map((_none, at) => (at % 200 < 6 ? 0 : 255));
    expect(isBlank(edge, 200, 300)).toBe(true);
  });
});

describe('what somebody wants done with a scan', () => {
  const pages = (...numbers: readonly (number | [number, Turn])[]) => ({
    pages: numbers.map((each) =>
      typeof each === 'number' ? { page: each, turn: 0 as const } : { page: each[0], turn: each[1] },
    ),
  });
  it('has to be something, of pages that there are, each once', () => {
    expect(cutFault([pages(1, 2), pages(3)], 3)).toBeNull();
    expect(cutFault([pages(2, 1, 3)], 3)).toBeNull();
    expect(cutFault([pages(1, [2, 90], 3)], 3)).toBeNull();
    expect(cutFault([pages(1, 2)], 3)).toBeNull();
    expect(cutFault([pages(1, 2, 3)], 3)).toMatch(/Nothing is changed/u);
    expect(cutFault([pages(1, 2), pages(2)], 3)).toMatch(/one paper/u);
    expect(cutFault([pages(4)], 3)).toMatch(/3 pages/u);
  });
});
