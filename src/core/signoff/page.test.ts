import { answerInWords, drawnSvg, proofInWords, signaturePage, type PageSigner, type SignaturePage } from './page';

const signer: PageSigner = {
  name: 'Ann <b>Other</b>',
  email: 'ann@example.org',
  answer: 'agreed',
  at: '14 Jul 2026, 10:00:00 (Europe/London)',
  proof: 'code',
  address: '192.0.2.7',
  browser: 'Firefox 140 on Linux',
  typedName: 'A. "Other" & co',
  drawnPng: null,
  reason: '',
};
const page: SignaturePage = {
  library: 'Test Trust',
  title: '<script>alert(1)</script>',
  versionNumber: 2,
  fileName: 'lease.pdf',
  sha256: 'ab'.repeat(32),
  way: 'sign',
  wording: 'Line 1 & 2',
  askedBy: 'Kea Keeper',
  askedAt: '1 Jul 2026',
  endedAt: '14 Jul 2026',
  outcome: 'signed by 1 of 1, version 2',
  signers: [signer],
  isAttached: false,
};

it('says whose signature it is, for which version, and how it is known', () => {
  const html = signaturePage(page);
  for (const words of [
    page.sha256,
    '2 (lease.pdf)',
    'Entered a code sent to ann@example.org; from 192.0.2.7, Firefox 140 on Linux',
  ])
    expect(html).toContain(words);
});

it('is markup of its own alone, whatever people are called', () => {
  const html = signaturePage(page);
  expect(html).not.toMatch(/<script|<b>/u);
  expect(html).toContain('&#60;script&#62;');
  expect(html).toContain('A. &#34;Other&#34; &#38; co');
});

it('says of an attached file that it is, and of nobody who was not needed that they declined', () => {
  expect(signaturePage(page)).not.toContain('attached');
  expect(signaturePage({ ...page, isAttached: true })).toContain('attached to this page, byte by byte');
  expect(answerInWords('approve', null)).toBe('Not needed any more');
  expect(answerInWords('approve', 'agreed')).toBe('Approved');
});

it.each([
  ['password', 'Signed in, and entered the password again'],
  ['paper', 'On paper'],
  [null, ''],
] as const)('tells the proof %s in words', (proof, words) => {
  expect(proofInWords({ ...signer, proof })).toBe(words);
});

it('draws a name from its points', () => {
  const svg = drawnSvg([
    [10, 10, 60, 40],
    [5, 5, 5, 5],
  ]);
  expect(svg.match(/<polyline/gu)).toHaveLength(2);
  expect(svg).toContain('points="10 10 60 40"');
});
