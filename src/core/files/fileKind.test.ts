import {
  endingAgrees,
  fileKinds,
  kindByContent,
  kindOfMediaType,
  permittedEndings,
  usualFamilies,
  type Sniffed,
} from './fileKind';

const sniffed = (...mediaTypes: string[]): Sniffed => ({
  mediaTypes,
  textual: false,
  mailHeaders: false,
  webPage: false,
});
const text = (mailHeaders = false, ...mediaTypes: string[]): Sniffed => ({
  mediaTypes,
  textual: true,
  mailHeaders,
  webPage: false,
});

describe('the kind of a file', () => {
  it('is told by content: a PDF that calls itself a Word document is a PDF', () => {
    expect(kindByContent(sniffed('application/pdf'), 'report.docx')?.stamp).toBe('PDF');
  });

  it.each([
    ['a CSV by its ending', text(false, 'text/plain'), 'list.csv', 'text/csv'],
    ['text of any other ending', text(false, 'text/plain'), 'notes.xyz', 'text/plain'],
    ['a mail by its header fields', text(true, 'text/plain'), 'letter.txt', 'message/rfc822'],
    ['an old Word document among the compound files', sniffed('application/x-cfb'), 'old.doc', 'application/msword'],
    ['a web page, which is never shown as one', text(false, 'text/html'), 'notes.txt', 'text/html'],
    ['a web page that is XML', { ...text(false, 'text/xml'), webPage: true }, 'page.html', 'text/html'],
    ['a bill as data', { ...text(false, 'text/xml'), bill: true }, 'bill.xml', 'application/xml'],
    ['a ZIP', sniffed('application/zip'), 'papers.zip', 'application/zip'],
    [
      'the second sniffer where the first does not know',
      sniffed('application/unheard-of', 'image/tiff'),
      'x',
      'image/tiff',
    ],
  ])('%s', (_what, beginning, name, mediaType) => {
    expect(kindByContent(beginning, name)?.mediaType).toBe(mediaType);
  });

  it.each([
    ['XML that is no web page', text(false, 'text/xml'), 'data.xml'],
    ['a drawing that calls itself a bill', { ...text(false, 'image/svg+xml'), bill: true }, 'bill.xml'],
    ['a drawing within a web page', { ...text(false, 'image/svg+xml'), webPage: true }, 'page.html'],
    ['what calls itself a web page and is no text', sniffed('text/html'), 'page.html'],
    ['SVG, which can carry scripts', text(false, 'image/svg+xml'), 'plan.png'],
    ['a program', sniffed('application/x-msdownload'), 'invoice.pdf'],
    ['a Unix program', sniffed('application/x-pie-executable'), 'invoice.pdf'],
    ['a compound file of no known ending', sniffed('application/x-cfb'), 'what.bin'],
    ['bytes that nothing knows', sniffed('application/octet-stream'), 'what.pdf'],
  ])('%s is none', (_what, beginning, name) => {
    expect(kindByContent(beginning, name)).toBeNull();
  });

  it('is a script for text under an ending by which it would run, which a library takes only where it says so', () => {
    for (const name of ['tidy.js', 'RUN.BAT', 'go.ps1', 'x.vbs'])
      expect(kindByContent(text(false, 'text/plain'), name)).toMatchObject({ stamp: 'TEXT', family: 'script' });
    expect(usualFamilies).not.toContain('script');
    expect(permittedEndings(usualFamilies)).not.toContain('js');
  });

  it.each([
    ['minutes.pdf', 'application/pdf', true],
    ['minutes', 'application/pdf', true],
    ['Minutes of 3.2024', 'application/pdf', true],
    ['minutes.docx', 'application/pdf', false],
    ['minutes.pdf', 'text/plain', false],
    ['letter.doc', 'application/rtf', true],
    ['photo.jpg', 'image/png', true],
    ['photo.pdf', 'image/png', false],
    ['mail.txt', 'message/rfc822', true],
    ['invoice.exe', 'application/pdf', false],
    ['invoice.pdf.js', 'application/pdf', false],
    ['big.docx', 'application/zip', true],
    ['big.png', 'application/zip', false],
  ])('%s as %s: the name agrees with the content: %s', (name, mediaType, agrees) => {
    const kind = kindOfMediaType(mediaType);
    expect(kind && endingAgrees(name, kind)).toBe(agrees);
  });

  it('has one entry a media type, and each ending once', () => {
    expect(new Set(fileKinds.map((kind) => kind.mediaType)).size).toBe(fileKinds.length);
    const endings = permittedEndings(['office', 'openDocument', 'pdf', 'image', 'text', 'mail', 'zip']);
    expect(new Set(endings).size).toBe(endings.length);
    expect(permittedEndings(['pdf'])).toEqual(['pdf']);
  });
});
