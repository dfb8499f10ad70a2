import { endingOf } from './title';

/** The short labels of kinds. */
export const stamps = ['PDF', 'DOC', 'SHEET', 'SLIDES', 'SCAN', 'IMAGE', 'MAIL', 'TEXT', 'ARCHIVE', 'LINK'] as const;
export type Stamp = (typeof stamps)[number];

/** Families of kinds that a library may permit, with their names in the settings. */
export const kindFamilies = {
  office: 'Office documents (Word, Excel, PowerPoint)',
  openDocument: 'OpenDocument',
  pdf: 'PDF',
  image: 'Images, including TIFF',
  text: 'Plain text, CSV and web links',
  web: 'Web pages, shown without anything that runs',
  mail: 'Mail',
  zip: 'ZIP archives',
  script: 'Scripts and other text that runs when it is opened',
} as const;
export type KindFamily = keyof typeof kindFamilies;
/** The families of kinds of file, in the order in which they are offered. */
export const allFamilies = Object.keys(kindFamilies) as KindFamily[];
/** The families a new library permits: all except executable scripts. */
export const usualFamilies: KindFamily[] = allFamilies.filter((family) => family !== 'script');

/** A kind of file that the library keeps. */
export interface FileKind {
  readonly mediaType: string;
  readonly stamp: Stamp;
  readonly family: KindFamily;
  /** File name endings, the usual one first. */
  readonly endings: readonly string[];
}

const kind = (mediaType: string, stamp: Stamp, family: KindFamily, ...endings: string[]): FileKind => ({
  mediaType,
  stamp,
  family,
  endings,
});

const ooxml = 'application/vnd.openxmlformats-officedocument.';
const odf = 'application/vnd.oasis.opendocument.';

/** All known kinds of file, by media type (IANA registry). */
export const fileKinds: readonly FileKind[] = [
  kind('application/pdf', 'PDF', 'pdf', 'pdf'),
  kind(`${ooxml}wordprocessingml.document`, 'DOC', 'office', 'docx'),
  kind(`${ooxml}spreadsheetml.sheet`, 'SHEET', 'office', 'xlsx'),
  kind(`${ooxml}presentationml.presentation`, 'SLIDES', 'office', 'pptx'),
  kind('application/msword', 'DOC', 'office', 'doc'),
  kind('application/vnd.ms-excel', 'SHEET', 'office', 'xls'),
  kind('application/vnd.ms-powerpoint', 'SLIDES', 'office', 'ppt'),
  kind('application/rtf', 'DOC', 'office', 'rtf'),
  kind('application/vnd.wordperfect', 'DOC', 'office', 'wpd'),
  kind(`${odf}text`, 'DOC', 'openDocument', 'odt', 'ott'),
  kind(`${odf}spreadsheet`, 'SHEET', 'openDocument', 'ods', 'ots'),
  kind(`${odf}presentation`, 'SLIDES', 'openDocument', 'odp', 'otp'),
  kind('image/tiff', 'SCAN', 'image', 'tif', 'tiff'),
  kind('image/png', 'IMAGE', 'image', 'png'),
  kind('image/jpeg', 'IMAGE', 'image', 'jpg', 'jpeg'),
  kind('image/gif', 'IMAGE', 'image', 'gif'),
  kind('image/webp', 'IMAGE', 'image', 'webp'),
  kind('image/heic', 'IMAGE', 'image', 'heic', 'heif'),
  kind('message/rfc822', 'MAIL', 'mail', 'eml'),
  kind('application/vnd.ms-outlook', 'MAIL', 'mail', 'msg'),
  kind('text/csv', 'SHEET', 'text', 'csv'),
  kind('text/html', 'TEXT', 'web', 'html', 'htm'),
  kind('text/markdown', 'TEXT', 'text', 'md', 'markdown'),
  kind('text/uri-list', 'LINK', 'text', 'uri', 'uris'),
  // A bill as data (EN 16931); no other XML is kept.
  kind('application/xml', 'TEXT', 'text', 'xml'),
  kind('text/plain', 'TEXT', 'text', 'txt', 'log'),
  kind('application/zip', 'ARCHIVE', 'zip', 'zip'),
];

/**
 * Endings of text files that a computer runs when opened. (Common practice, no source: what mail programs usually block,
 * from memory.)
 */
const runningEndings =
  'bat cmd com cpl hta inf ins isp js jse lnk msc msp mst ps1 ps1xml ps2 psc1 psd1 psm1 reg scf sct sh shb url vb vbe vbs ws wsc wsf wsh py pl rb applescript command desktop'.split(
    ' ',
  );

/** Plain text with an executable ending. */
const script: FileKind = { ...kind('text/plain', 'TEXT', 'script'), endings: runningEndings };

const byMediaType = new Map(fileKinds.map((each) => [each.mediaType, each]));
/** The kind with this media type; null if the library does not keep it. */
export const kindOfMediaType = (mediaType: string): FileKind | null => byMediaType.get(mediaType) ?? null;

/** Other media types that the two sniffers use for the same kinds. */
const aliases: Readonly<Record<string, string>> = {
  'text/rtf': 'application/rtf',
  'application/csv': 'text/csv',
  'application/xhtml+xml': 'text/html',
  'application/wordperfect': 'application/vnd.wordperfect',
  [`${odf}text-template`]: `${odf}text`,
  [`${odf}spreadsheet-template`]: `${odf}spreadsheet`,
  [`${odf}presentation-template`]: `${odf}presentation`,
  'application/x-zip-compressed': 'application/zip',
  'image/heif': 'image/heic',
};

/** Kinds of text that only their ending distinguishes. */
const textKinds: Readonly<Record<string, string>> = {
  csv: 'text/csv',
  md: 'text/markdown',
  markdown: 'text/markdown',
  uri: 'text/uri-list',
  uris: 'text/uri-list',
};

/** Kinds of compound file that only their ending distinguishes if the sniffers do not. */
const compoundEndings = new Set(['doc', 'xls', 'ppt', 'msg']);

/** What two independent sniffers and our own checks found in a file's beginning. */
export interface Sniffed {
  /** Media types found by the sniffers, the more reliable first. */
  readonly mediaTypes: readonly string[];
  /** Whether the bytes are text: UTF-8, UTF-16 with a byte order mark, or single bytes without control characters. */
  readonly textual: boolean;
  /** Whether the text begins with mail header fields (RFC 5322, section 2.2), including From and one of Date, Subject and To. */
  readonly mailHeaders: boolean;
  /** Whether the text has the first tag of a web page near its beginning: one may also be well-formed XML. */
  readonly webPage: boolean;
  /** Whether it is a bill as data, by the name of its namespace, and names nothing by which a browser would draw it. */
  readonly bill?: boolean;
}

/**
 * The kind of a file by its content. The ending decides only between kinds that look alike: text, Markdown or CSV, and the
 * old compound formats. A web page is kept, and never shown as one. Null for programs, and for drawings and data in markup.
 */
export function kindByContent(sniffed: Sniffed, fileName: string): FileKind | null {
  const named = sniffed.mediaTypes.map((type) => aliases[type] ?? type);
  if (sniffed.textual && sniffed.bill && !named.includes('image/svg+xml')) return kindOfMediaType('application/xml');
  const isWebPage = named.includes('text/html') || (sniffed.webPage && named.some(isPlainMarkup));
  if (!isWebPage && named.some(isActive)) return null;
  if (sniffed.textual && sniffed.mailHeaders) return kindOfMediaType('message/rfc822');
  // Markdown may have tags in it (CommonMark 0.31, section 4.6), and both are shown alike: without what runs.
  if (isWebPage && sniffed.textual && textKinds[endingOf(fileName)] === 'text/markdown')
    return kindOfMediaType('text/markdown');
  if (isWebPage) return sniffed.textual && !named.some(isProgram) ? kindOfMediaType('text/html') : null;
  const exact = named
    .map(kindOfMediaType)
    .find((each) => each !== null && each.family !== 'text' && each.family !== 'web' && each.family !== 'zip');
  if (exact) return exact;
  const ending = endingOf(fileName);
  if (
    named.some(
      (type) => type === 'application/x-cfb' || type === 'application/CDFV2' || type === 'application/x-ole-storage',
    )
  ) {
    return compoundEndings.has(ending) ? (fileKinds.find((each) => each.endings.includes(ending)) ?? null) : null;
  }
  if (named.includes('application/zip')) return kindOfMediaType('application/zip');
  if (!sniffed.textual) return null;
  if (runningEndings.includes(ending)) return script;
  return kindOfMediaType(textKinds[ending] ?? 'text/plain');
}

/**
 * Whether a file's ending agrees with its content: it belongs to the same kind or family, or is unknown. Mail may have
 * any text ending; an archive may have an office document's ending, since the sniffers do not always look far enough into
 * it.
 */
export function endingAgrees(fileName: string, { family, endings }: FileKind): boolean {
  const ending = endingOf(fileName);
  if (ending === '' || endings.includes(ending)) return true;
  if (runningEndings.includes(ending) || programEndings.includes(ending)) return family === 'script';
  const named = new Set(fileKinds.filter((each) => each.endings.includes(ending)).map((each) => each.family));
  if (named.size === 0 || named.has(family)) return true;
  if (family === 'mail') return named.has('text');
  if (family === 'zip') return named.has('office') || named.has('openDocument');
  return false;
}

/** Endings of programs, which are refused whatever the content. */
const programEndings = 'exe dll scr msi jar app dmg iso img vhd'.split(' ');

/** XML of no kind that a browser would draw or run. */
const isPlainMarkup = (mediaType: string): boolean => /^(?:text|application)\/xml$/u.test(mediaType);

/** What a computer or a browser runs, other than a web page. */
const isProgram = (mediaType: string): boolean => isActive(mediaType) && !isPlainMarkup(mediaType);

const isActive = (mediaType: string): boolean =>
  /^(?:image\/svg\+xml|text\/xml|application\/xml|(?:application|text)\/(?:x-)?(?:javascript|shellscript|executable|dosexec|pie-executable|sharedlib|mach-binary|msdownload|elf)|application\/vnd\.microsoft\.portable-executable)$/u.test(
    mediaType,
  );

/** The endings of all permitted kinds, for the file dialog and its help text. */
export const permittedEndings = (families: readonly KindFamily[]): string[] =>
  [...fileKinds, script].filter((each) => families.includes(each.family)).flatMap((each) => each.endings);
