import { escapedMarkup as escaped } from '../text/markup';
import type { Drawn, SignAnswer, SignOffWay, SignProof } from './model';
import { drawnBox } from './model';

/** What the page of signatures says of one who was asked. */
export interface PageSigner {
  readonly name: string;
  /** '' where it is not known. */
  readonly email: string;
  readonly answer: SignAnswer | null;
  /** In words, with the time zone. */
  readonly at: string;
  readonly proof: SignProof | null;
  /** Of someone outside: where they signed from, and with what. */
  readonly address: string;
  readonly browser: string;
  /** Their name as they typed it, where they did. */
  readonly typedName: string;
  /** Their name as they drew it, as a PNG in Base64; null where they did not. */
  readonly drawnPng: string | null;
  readonly reason: string;
}

/** All that the page of signatures says. */
export interface SignaturePage {
  readonly library: string;
  readonly title: string;
  readonly versionNumber: number;
  readonly fileName: string;
  readonly sha256: string;
  readonly way: SignOffWay;
  readonly wording: string;
  readonly askedBy: string;
  readonly askedAt: string;
  readonly endedAt: string;
  readonly outcome: string;
  readonly signers: readonly PageSigner[];
  /** Whether the signed file itself is attached, as it has no pages. */
  readonly isAttached: boolean;
}

const answerWords: Readonly<Record<SignOffWay, Readonly<Record<SignAnswer, string>>>> = {
  sign: { agreed: 'Signed', declined: 'Declined', released: 'Not asked any more' },
  approve: { agreed: 'Approved', declined: 'Declined', released: 'Not asked any more' },
  onPaper: { agreed: 'Signed on paper', declined: 'Declined', released: 'Not asked any more' },
};

/** "Signed", "Approved", "Declined"; what one who need not answer any more is called. */
export const answerInWords = (way: SignOffWay, answer: SignAnswer | null): string =>
  answer === null ? 'Not needed any more' : answerWords[way][answer];

/** By what it is known who answered. */
export function proofInWords({
  proof,
  email,
  address,
  browser,
}: Pick<PageSigner, 'proof' | 'email' | 'address' | 'browser'>): string {
  if (proof === 'password') return 'Signed in, and entered the password again';
  if (proof === 'paper') return 'On paper';
  if (proof === null) return '';
  const from = [address, browser].filter((each) => each !== '').join(', ');
  return `Entered a code sent to ${email}${from === '' ? '' : `; from ${from}`}`;
}

const face = 'font-family: Liberation Sans, sans-serif';

/** The page of signatures as a web page, to be made a PDF of. */
export function signaturePage(page: SignaturePage): string {
  const row = (name: string, text: string): string =>
    `<tr><td valign="top" width="26%">${escaped(name)}</td><td valign="top">${escaped(text)}</td></tr>`;
  const signer = (each: PageSigner): string => `
<h3 style="${face}">${escaped(each.name)}</h3>
${each.drawnPng === null ? '' : `<p><img src="data:image/png;base64,${each.drawnPng}" width="${drawnBox.width / 2}" height="${drawnBox.height / 2}" alt=""></p>`}
${each.typedName === '' ? '' : `<p style="font-size: 16pt"><i>${escaped(each.typedName)}</i></p>`}
<table width="100%" cellpadding="2">
${row(answerInWords(page.way, each.answer), each.at)}
${each.proof === null ? '' : row('Known by', proofInWords(each))}
${each.reason === '' ? '' : row('Reason', each.reason)}
</table>`;
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Signatures</title></head>
<body style="${face}; font-size: 10pt">
<h1 style="${face}">Signatures</h1>
<p>${escaped(page.library)}</p>
<table width="100%" cellpadding="2">
${row('Paper', page.title)}
${row('Version', `${page.versionNumber} (${page.fileName})`)}
${row('SHA-256 of that version', page.sha256)}
${page.wording === '' ? '' : row('What they were asked', page.wording)}
${row('Asked by', `${page.askedBy}, ${page.askedAt}`)}
${row('Outcome', `${page.outcome}, ${page.endedAt}`)}
</table>
<p>These signatures are for this version alone. A later version has none of them.${
    page.isAttached ? ' The signed file is attached to this page, byte by byte.' : ''
  }</p>
${page.signers.map(signer).join('')}
</body></html>`;
}

/** A drawn name as SVG, of numbers alone. */
export const drawnSvg = (drawn: Drawn): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${drawnBox.width}" height="${drawnBox.height}"><rect width="100%" height="100%" fill="white"/>${drawn
    .map(
      (line) =>
        `<polyline points="${line.join(' ')}" fill="none" stroke="#18211f" stroke-width="2.5" stroke-linecap="round" stroke-linejoin="round"/>`,
    )
    .join('')}</svg>`;
