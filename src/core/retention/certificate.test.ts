import Papa from 'papaparse';
import { certificateCsv, certificatePage, type Certificate } from './certificate';

const certificate: Certificate = {
  library: 'Saltmarrow & Sons',
  day: '27 Nov 2026',
  note: '',
  preparedBy: 'Ann',
  preparedAt: 'then',
  approvedBy: 'Bo',
  approvedAt: 'later',
  papers: [
    {
      title: 'Invoice "7", <b>paid</b>\r\nand more',
      place: '=HYPERLINK("x")',
      className: 'Invoices',
      authority: '',
      keptUntil: '2026-01-31',
      destroyedAt: '2026-11-27T10:00:00.000Z',
      sha256s: ['a'.repeat(64), 'b'.repeat(64)],
    },
  ],
};

it('lists every version in a CSV that any reader of RFC 4180 reads, and that no spreadsheet runs', () => {
  const text = certificateCsv(certificate);
  const { data, errors } = Papa.parse<string[]>(text.trimEnd());
  expect(errors).toEqual([]);
  expect(data.map((row) => row.length)).toEqual([10, 10, 10]);
  expect(data.slice(1).map((row) => [row[0], row[6], row[7]])).toEqual([
    [certificate.papers[0]?.title, '1', 'a'.repeat(64)],
    [certificate.papers[0]?.title, '2', 'b'.repeat(64)],
  ]);
  expect(data[1]?.[1]).not.toMatch(/^=/u);
  expect(text.endsWith('\r\n')).toBe(true);
});

it('prints titles as what they are, and the hash of its list', () => {
  const page = certificatePage(certificate, 'c'.repeat(64));
  expect(page).not.toContain('<b>paid');
  expect(page).toContain('c'.repeat(64));
  expect(page).toContain('Invoice &#34;7&#34;, &#60;b&#62;paid');
});

it('names a thousand papers at most, and says how many more there are', () => {
  const [one] = certificate.papers;
  if (!one) throw new Error('There is a paper');
  const page = certificatePage({ ...certificate, papers: Array.from({ length: 1003 }, () => one) }, '');
  expect(page).toContain('3 more papers in the list');
  expect(page.split('Invoice &#34;7').length - 1).toBe(1000);
});
