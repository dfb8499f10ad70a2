import { endingOf } from './title';

/** The short words that stamp a paper's kind. */
export const stamps = ['PDF', 'DOC', 'SHEET', 'SLIDES', 'SCAN', 'IMAGE', 'MAIL', 'TEXT', 'ARCHIVE', 'LINK'] as const;
export type Stamp = (typeof stamps)[number];

/** The families of kinds that a library may permit, as its settings name them. */
export const kindFamilies = {
  office: 'Office documents (Word, Excel, PowerPoint)',
  openDocument: 'OpenDocument',
  pdf: 'PDF',
  image: 'Images, TIFF among them',
  text: 'Plain text and CSV',
  mail: 'Mail',
  zip: 'ZIP archives',
  script: 'Scripts and other text that runs when it is opened',
} as const;
export type KindFamily = keyof typeof kindFamilies;
export const allFamilies = Object.keys(kindFamilies) as KindFamily[];
/** What a new library takes: all but what would run on a reader's computer. */
export const usualFamilies: KindFamily[] = allFamilies.filter((family) => family !== 'script');

export interface FileKind {
  readonly mediaType: string;
  readonly stamp: Stamp;
  readonly family: KindFamily;
  /** Endings such a file goes by, the usual one first. */
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

/** Every kind of file the library knows, by the media types of the IANA registry. */
export const fileKinds: readonly FileKind[] = [
  kind('application/pdf', 'PDF', 'pdf', 'pdf'),
  kind(`${ooxml}wordprocessingml.document`, 'DOC', 'office', 'docx'),
  kind(`${ooxml}spreadsheetml.sheet`, 'SHEET', 'office', 'xlsx'),
  kind(`${ooxml}presentationml.presentation`, 'SLIDES', 'office', 'pptx'),
  kind('application/msword', 'DOC', 'office', 'doc'),
  kind('application/vnd.ms-excel', 'SHEET', 'office', 'xls'),
  kind('application/vnd.ms-powerpoint', 'SLIDES', 'office', 'ppt'),
  kind('application/rtf', 'DOC', 'office', 'rtf'),
  kind(`${odf}text`, 'DOC', 'openDocument', 'odt'),
  kind(`${odf}spreadsheet`, 'SHEET', 'openDocument', 'ods'),
  kind(`${odf}presentation`, 'SLIDES', 'openDocument', 'odp'),
  kind('image/tiff', 'SCAN', 'image', 'tif', 'tiff'),
  kind('image/png', 'IMAGE', 'image', 'png'),
  kind('image/jpeg', 'IMAGE', 'image', 'jpg', 'jpeg'),
  kind('image/gif', 'IMAGE', 'image', 'gif'),
  kind('image/webp', 'IMAGE', 'image', 'webp'),
  kind('message/rfc822', 'MAIL', 'mail', 'eml'),
  kind('application/vnd.ms-outlook', 'MAIL', 'mail', 'msg'),
  kind('text/csv', 'SHEET', 'text', 'csv'),
  kind('text/plain', 'TEXT', 'text', 'txt', 'md', 'log'),
  kind('application/zip', 'ARCHIVE', 'zip', 'zip'),
];

/**
 * Endings of text that a computer runs when it is opened. (Common practice, no source: what mail programs usually hold back,
 * from memory.)
 */
const runningEndings =
  'bat cmd com cpl hta inf ins isp js jse lnk msc msp mst ps1 ps1xml ps2 psc1 psd1 psm1 reg scf sct sh shb url vb vbe vbs ws wsc wsf wsh py pl rb applescript command desktop'.split(
    ' ',
  );

/** Plain text under an ending by which it would run. */
const script: FileKind = { ...kind('text/plain', 'TEXT', 'script'), endings: runningEndings };

const byMediaType = new Map(fileKinds.map((each) => [each.mediaType, each]));
export const kindOfMediaType = (mediaType: string): FileKind | null => byMediaType.get(mediaType) ?? null;

/** Other names by which the two sniffers call the same kinds. */
const aliases: Readonly<Record<string, string>> = {
  'text/rtf': 'application/rtf',
  'application/csv': 'text/csv',
  'application/x-zip-compressed': 'application/zip',
};

/** Kinds of the compound-file format that only their ending tells apart when the sniffers say no more. */
const compoundEndings = new Set(['doc', 'xls', 'ppt', 'msg']);

/** What two independent sniffers and a look at the bytes say of a file's beginning. */
export interface Sniffed {
  /** Media types named by the sniffers, the more trusted first. */
  readonly mediaTypes: readonly string[];
  /** The bytes are text: valid UTF-8 or UTF-16 with a mark, or a single-byte text without controls. */
  readonly textual: boolean;
  /** The text opens with mail header fields (RFC 5322, section 2.2), a From and a Date, Subject or To among them. */
  readonly mailHeaders: boolean;
}

/**
 * The kind of a file by its content. The ending decides only between kinds that are alike as bytes: text
 * or CSV, and the old compound formats. Markup that a browser would run (HTML, SVG, XML) and programs are no
 * kind at all here: null.
 */
export function kindByContent(sniffed: Sniffed, fileName: string): FileKind | null {
  const named = sniffed.mediaTypes.map((type) => aliases[type] ?? type);
  if (named.some(isActive)) return null;
  if (sniffed.textual && sniffed.mailHeaders) return kindOfMediaType('message/rfc822');
  const exact = named
    .map(kindOfMediaType)
    .find((each) => each !== null && each.family !== 'text' && each.family !== 'zip');
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
  return kindOfMediaType(ending === 'csv' ? 'text/csv' : 'text/plain');
}

/**
 * Whether a file's name says what its content is: its ending is that of its kind, of another of the same family, or of none that
 * is known. Mail is text under any ending of a text; a document of an office in an archive that the sniffers did not look into
 * far enough counts as one.
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

/** Endings of programs, which no content makes into a paper. */
const programEndings = 'exe dll scr msi jar app dmg iso img vhd'.split(' ');

const isActive = (mediaType: string): boolean =>
  /^(?:text\/html|image\/svg\+xml|application\/xhtml\+xml|text\/xml|application\/xml|(?:application|text)\/(?:x-)?(?:javascript|shellscript|executable|dosexec|pie-executable|sharedlib|mach-binary|msdownload|elf)|application\/vnd\.microsoft\.portable-executable)$/u.test(
    mediaType,
  );

/** The endings of all permitted kinds, for a file dialogue and for the sentence beside it. */
export const permittedEndings = (families: readonly KindFamily[]): string[] =>
  [...fileKinds, script].filter((each) => families.includes(each.family)).flatMap((each) => each.endings);
