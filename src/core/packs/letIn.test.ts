import fc from 'fast-check';
import { layOut } from './layout';
import { issuedSoFar, leftOutInWords, letInLabels, lettersOf, pageLabel, pagesInWords, stampInWords } from './letIn';
import { laidEntries, newEntries, type IssuedEntry, type PackRecord } from './record';

const paper = (id: string, pages: number, version = id): IssuedEntry => ({
  id,
  parentId: null,
  kind: 'paper',
  title: id,
  documentId: id,
  versionId: version,
  fileName: '',
  pages: Array.from({ length: pages }, (_page, at) => at + 1),
  readers: null,
});
const record = (entries: readonly IssuedEntry[], more: Partial<PackRecord> = {}): PackRecord => ({
  ...{ name: 'P', description: '', preparedBy: '', forWhom: '', day: null, library: 'L', stampPlace: 'topLeft' },
  ...{ sheets: false, firstPage: 1, called: '', entries },
  ...more,
});
/** A supplement whose pages are let in, as it is issued. */
const letIn = (before: readonly PackRecord[], all: readonly IssuedEntry[]): PackRecord => {
  const entries = newEntries(
    all,
    before.flatMap((each) => each.entries),
  );
  const plan = layOut(laidEntries(entries), { sheets: false });
  return record(entries, { labels: letInLabels(plan, issuedSoFar(before, all)) });
};

it('letters go on from z with two, as columns of a table do', () => {
  expect([1, 2, 26, 27, 52, 53, 702, 703].map(lettersOf)).toEqual(['a', 'b', 'z', 'aa', 'az', 'ba', 'zz', 'aaa']);
});

describe('pages that are let in', () => {
  // Cover 1, contents 2, minutes 3 to 5, tender 6 to 9.
  const [minutes, tender] = [paper('minutes', 3), paper('tender', 4)];
  const whole = record([minutes, tender]);

  it('come behind the paper before theirs, behind the contents where none is, and go on with letters', () => {
    const [first, after, last] = [paper('agenda', 1), paper('letter', 2), paper('map', 1)];
    const supplement = letIn([whole], [first, minutes, after, tender, last]);
    expect(supplement.labels).toEqual(['', '', '2a', '5a', '5b', '9a']);
    const next = letIn([whole, supplement], [first, minutes, after, paper('reply', 1), tender, last]);
    expect(next.labels).toEqual(['', '', '5c']);
  });

  it('of a new version come behind the pages of the old', () => {
    expect(letIn([whole], [paper('minutes', 3, 'later'), tender]).labels).toEqual(['', '', '5a', '5b', '5c']);
  });

  it('come behind pages that went on, too', () => {
    const onward = record([paper('extra', 1)], { firstPage: 10 });
    expect(letIn([whole, onward], [minutes, tender, paper('extra', 1), paper('late', 1)]).labels).toEqual([
      '',
      '',
      '12a',
    ]);
  });

  it('are told in words', () => {
    const supplement = letIn([whole], [minutes, paper('letter', 2), tender, paper('map', 1)]);
    const plan = layOut(laidEntries(supplement.entries), supplement);
    expect(pagesInWords(supplement, plan)).toBe('Let in: pages 5a to 5b, 9a');
    expect(stampInWords(supplement, 3, plan.total)).toBe('Pack page 5a');
    expect(leftOutInWords(supplement, { from: 3, to: 4 })).toBe('Pages 5a to 5b are not part of your copy.');
    const wholePlan = layOut(laidEntries(whole.entries), whole);
    expect(pagesInWords(whole, wholePlan)).toBe('9 pages in all');
    expect(stampInWords(whole, 3, wholePlan.total)).toBe('Pack page 3 of 9');
    expect(pagesInWords({ firstPage: 10 }, wholePlan)).toBe('Pages 10 to 18');
    expect(pageLabel(supplement, 99)).toBe('');
  });

  it('never have a number that another page has, however many supplements come', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.tuple(fc.nat(9), fc.integer({ min: 1, max: 30 })), { maxLength: 4 })),
        (rounds) => {
          const all = [minutes, tender];
          const records = [whole];
          for (const [round, added] of rounds.entries()) {
            for (const [at, [place, pages]] of added.entries())
              all.splice(Math.min(place, all.length), 0, paper(`${round}-${at}`, pages));
            if (added.length > 0) records.push(letIn(records, all));
          }
          const labels = records.flatMap((each) => each.labels ?? []).filter((label) => label !== '');
          expect(new Set(labels).size).toBe(labels.length);
          expect(labels.every((label) => /^[2-9][a-z]+$/u.test(label))).toBe(true);
        },
      ),
      { seed: 5, numRuns: 60 },
    );
  });
});
