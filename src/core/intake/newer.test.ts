import { newerBy } from './newer';

describe('a file looks like a newer version of a paper', () => {
  it.each([
    ['Tender report v2.docx', ['Tender report v1.docx'], 'surely'],
    ['Tender_report-v2.1.docx', ['Tender report'], 'surely'],
    ['Tender report (revised).docx', ['Tender report'], 'surely'],
    ['Tender report revised final.docx', ['Tender report draft 3'], 'surely'],
    ['Tender report (2).docx', ['Tender report.docx'], 'surely'],
    ['tender REPORT.pdf', ['x', 'Tender report.docx'], 'maybe'],
    ['Tender report.pdf', ['Tender reports'], null],
    ['Minutes 2026.pdf', ['Minutes 2025'], null],
    ['Invoice 12.pdf', ['Invoice 12'], null],
    ['Scan 2.pdf', ['Scan 1'], null],
    ['v2.pdf', ['v1'], null],
    ['', [''], null],
  ] as const)('%s, of %j: %s', (name, names, says) => {
    expect(newerBy(name, names)).toBe(says);
  });
});
