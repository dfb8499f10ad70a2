import { z } from 'zod';
import { stamps } from '../files/fileKind';

/** How the screen shows a kind of content. */
export const shownForms = ['pages', 'sheets', 'mail', 'markup', 'text', 'picture', 'list'] as const;
export type ShownForm = (typeof shownForms)[number];

const ooxml = 'application/vnd.openxmlformats-officedocument.';
const odf = 'application/vnd.oasis.opendocument.';

/**
 * Office papers, and the import filter of the office program that reads them. The filter is named rather than guessed:
 * a file that is not what it says is then refused instead of being laid out as text.
 */
export const officeFilters: Readonly<Record<string, { readonly filter: string; readonly form: 'pages' | 'sheets' }>> = {
  [`${ooxml}wordprocessingml.document`]: { filter: 'MS Word 2007 XML', form: 'pages' },
  'application/msword': { filter: 'MS Word 97', form: 'pages' },
  'application/rtf': { filter: 'Rich Text Format', form: 'pages' },
  [`${odf}text`]: { filter: 'writer8', form: 'pages' },
  'application/vnd.wordperfect': { filter: 'WordPerfect', form: 'pages' },
  [`${ooxml}presentationml.presentation`]: { filter: 'Impress MS PowerPoint 2007 XML', form: 'pages' },
  'application/vnd.ms-powerpoint': { filter: 'MS PowerPoint 97', form: 'pages' },
  [`${odf}presentation`]: { filter: 'impress8', form: 'pages' },
  [`${ooxml}spreadsheetml.sheet`]: { filter: 'Calc MS Excel 2007 XML', form: 'sheets' },
  'application/vnd.ms-excel': { filter: 'MS Excel 97', form: 'sheets' },
  [`${odf}spreadsheet`]: { filter: 'calc8', form: 'sheets' },
};

/** The form in which content of a media type is shown; null if it can only be downloaded. */
export function shownForm(mediaType: string): ShownForm | null {
  const office = officeFilters[mediaType];
  if (office) return office.form;
  if (mediaType === 'application/pdf') return 'pages';
  if (mediaType === 'text/csv') return 'sheets';
  if (['text/html', 'text/markdown', 'application/xml'].includes(mediaType)) return 'markup';
  if (mediaType === 'message/rfc822' || mediaType === 'application/vnd.ms-outlook') return 'mail';
  if (mediaType === 'application/zip') return 'list';
  if (mediaType.startsWith('text/')) return 'text';
  return mediaType.startsWith('image/') ? 'picture' : null;
}

/** Whether content of a media type has pages of its own, which lists count; a text, a mail or a sheet has none. */
export const hasOwnPages = (mediaType: string): boolean => {
  const form = shownForm(mediaType);
  return form === 'pages' || form === 'picture';
};

/** A sheet as it is shown: text by row and column, as the number formats say; nothing in it is computed. */
export const sheetSchema = z.object({
  name: z.string(),
  /** Widths of columns in characters; 0 where a column is hidden. */
  widths: z.array(z.number()),
  /** How many rows and columns stay in sight. */
  frozen: z.object({ rows: z.number().int(), columns: z.number().int() }),
  /** Rows in order, empty ones included. */
  rows: z.array(z.array(z.string())),
  /** Cells to be set to the right, as numbers and dates are: by row, the indexes of their columns. */
  right: z.array(z.array(z.number().int())),
  /** Rows that are set in bold, as headings are. */
  bold: z.array(z.number().int()),
  /** Rows and columns that the sheet has and that are not shown here. */
  more: z.object({ rows: z.number().int(), columns: z.number().int() }),
});
export type Sheet = z.output<typeof sheetSchema>;

/** A workbook, or a table as a sheet. */
export const sheetsForm = z.object({ form: z.literal('sheets'), sheets: z.array(sheetSchema) });

/** An attachment of a mail, in its order from 1. `sha256` names its content; null if it was too large to take out. */
export const attachmentSchema = z.object({
  number: z.number().int(),
  name: z.string(),
  mediaType: z.string(),
  stamp: z.enum(stamps),
  sizeBytes: z.number().int(),
  sha256: z.string().nullable(),
});
export type Attachment = z.output<typeof attachmentSchema>;

const address = z.object({ name: z.string(), address: z.string() });

/** A mail: its head, its body as safe markup (or plain text), and what is attached. */
export const mailForm = z.object({
  form: z.literal('mail'),
  subject: z.string(),
  from: z.array(address),
  to: z.array(address),
  copiedTo: z.array(address),
  /** ISO 8601; null if the mail does not say, or not in a way that can be read. */
  sentAt: z.string().nullable(),
  markup: z.string().nullable(),
  text: z.string(),
  attachments: z.array(attachmentSchema),
  /** Of mails read since the library takes mail in: whether a program sent it by itself (RFC 3834), and its Message-ID. */
  automatic: z.boolean().optional(),
  messageId: z.string().max(1000).optional(),
  /** What servers on its way wrote of its sender (RFC 8601), the last of them first. */
  checked: z.array(z.string()).optional(),
  /** How many more attachments there are than were taken out. */
  moreAttachments: z.number().int(),
});
export type MailForm = z.output<typeof mailForm>;

/** A web page, as safe markup: nothing in it runs, and it fetches nothing. */
export const markupForm = z.object({ form: z.literal('markup'), markup: z.string() });

/** A plain text, or its beginning. */
export const textForm = z.object({ form: z.literal('text'), text: z.string(), moreCharacters: z.number().int() });

/** What an archive lists. */
export const listForm = z.object({
  form: z.literal('list'),
  entries: z.array(z.object({ path: z.string(), sizeBytes: z.number(), changedAt: z.string().nullable() })),
  more: z.number().int(),
});

/** What the screen is given of a content that has no pages, or not only pages. */
export const viewForm = z.discriminatedUnion('form', [sheetsForm, mailForm, markupForm, textForm, listForm]);
export type ViewForm = z.output<typeof viewForm>;
