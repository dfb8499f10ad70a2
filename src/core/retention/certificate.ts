import { escapedMarkup as escaped } from '../text/markup';
import { grouped } from '../collections/grouped';
import { writeCsv } from '../interchange/block';
import { counted } from '../text/measure';

/** A paper that was destroyed, as a certificate says of it. */
export interface DestroyedPaper {
  readonly title: string;
  readonly place: string;
  readonly className: string;
  readonly authority: string;
  /** ISO 8601 days and instants. */
  readonly keptUntil: string;
  readonly destroyedAt: string;
  /** Of each version, oldest first, in hexadecimal. */
  readonly sha256s: readonly string[];
}

/** All that a certificate of destruction says. Times are in words. */
export interface Certificate {
  readonly library: string;
  readonly day: string;
  readonly note: string;
  readonly preparedBy: string;
  readonly preparedAt: string;
  readonly approvedBy: string;
  readonly approvedAt: string;
  readonly papers: readonly DestroyedPaper[];
}

/** The list of a certificate as CSV (RFC 4180): one line a version of a paper. */
export const certificateCsv = ({ papers, preparedBy, approvedBy }: Certificate): string =>
  writeCsv([
    [
      'Title',
      'Place',
      'Class',
      'Authority',
      'Kept until',
      'Destroyed at',
      'Version',
      'SHA-256',
      'Prepared by',
      'Approved by',
    ],
    ...papers.flatMap(({ title, place, className, authority, keptUntil, destroyedAt, sha256s }) =>
      sha256s.map((sha256, at) => [
        ...[title, place, className, authority, keptUntil, destroyedAt],
        ...[String(at + 1), sha256, preparedBy, approvedBy],
      ]),
    ),
  ]);

/** So many papers are named on the printed certificate; its list has all of them. */
const mostPrinted = 1000;

/** The certificate as a web page, to be made a PDF of. @param listSha256 of the list as CSV, by which the two belong together */
export function certificatePage(certificate: Certificate, listSha256: string): string {
  const { library, day, note, papers } = certificate;
  const classes = [...grouped(papers, ({ className }) => className)];
  const cells = (tag: 'td' | 'th', texts: readonly string[]): string =>
    `<tr>${texts.map((text) => `<${tag} align="left" valign="top">${escaped(text)}</${tag}>`).join('')}</tr>`;
  const table = (rows: readonly string[]): string => `<table width="100%" cellpadding="3">${rows.join('')}</table>`;
  const printed = papers.slice(0, mostPrinted);
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Certificate of destruction</title></head>
<body style="font-family: sans-serif; font-size: 10pt">
<h1>Certificate of destruction</h1>
<p>${escaped(library)}, ${escaped(day)}</p>
${table([
  cells('td', ['Prepared by', `${certificate.preparedBy}, ${certificate.preparedAt}`]),
  cells('td', ['Approved by', `${certificate.approvedBy}, ${certificate.approvedAt}`]),
  cells('td', ['Papers destroyed', counted(papers.length, 'paper')]),
  ...(note === '' ? [] : [cells('td', ['Note', note])]),
  cells('td', ['List of all papers (CSV), SHA-256', listSha256]),
])}
<h2>By class</h2>
${table([
  cells('th', ['Class', 'Authority', 'Papers']),
  ...classes.map(([name, all]) => cells('td', [name, all[0]?.authority ?? '', String(all.length)])),
])}
<h2>Papers</h2>
${table([
  cells('th', ['Title', 'Where it was', 'Kept until', 'SHA-256 of its last version']),
  ...printed.map(({ title, place, keptUntil, sha256s }) =>
    cells('td', [title, place, keptUntil, `${sha256s.at(-1)?.slice(0, 16) ?? ''}…`]),
  ),
])}
${papers.length > mostPrinted ? `<p>${counted(papers.length - mostPrinted, 'more paper', 'more papers')} in the list.</p>` : ''}
</body></html>`;
}
