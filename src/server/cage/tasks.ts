import { z } from 'zod';
import { invoiceSchema } from '@/core/invoices/model';
import { comparisonSchema } from '@/core/reading/compare';

/** A mail's attachment as the caged reader took it out: its file is `attachment-NUMBER`. */
const takenAttachment = z.object({ number: z.number().int(), name: z.string(), sizeBytes: z.number().int() });

/** What came of making a view: whether it is all that there is, or only the beginning. Null if it is not of that kind. */
const made = z.object({ cut: z.boolean() }).nullable();

const nothing = z.object({});

/**
 * The caged reader's tasks, with what they are asked beside the file, and what they tell. Files that a task writes lie
 * beside the one that it read: `view` is a form for the screen (JSON), `pages.html` what pages are laid out from.
 */
export const cagedTasks = {
  /** The words of a text, by Unicode's boundaries. */
  words: { asked: nothing, told: z.number().int() },
  /** Writes a page (from 1) of a picture or scan to `picture` as a JPEG; tells the number of pages. */
  picture: {
    asked: z.object({ page: z.number().int(), longestSide: z.number().int() }),
    told: z.object({ pages: z.number().int(), drawn: z.boolean() }),
  },
  /** Writes `sheets.pdf`: the pages of a picture or scan as sheets of paper; tells how many. None: it is no picture. */
  asSheets: { asked: nothing, told: z.object({ pages: z.number().int() }) },
  /** Writes the JPEG to `picture` again, with a light mark across it. */
  mark: { asked: z.object({ words: z.string() }), told: nothing },
  /** The cells of a CSV, or of a workbook's first sheet; null if it is neither. */
  table: {
    asked: z.object({ form: z.enum(['csv', 'xlsx']) }),
    told: z.array(z.array(z.string())).nullable(),
  },
  /** Writes `view`: the sheets of a workbook or CSV. */
  sheets: { asked: z.object({ form: z.enum(['csv', 'xlsx']) }), told: made },
  /** Writes `view` without attachments, `pages.html`, and each attachment; tells which attachments there are. */
  mail: {
    asked: z.object({ form: z.enum(['eml', 'msg']) }),
    told: z.object({ attachments: z.array(takenAttachment), more: z.number().int(), cut: z.boolean() }).nullable(),
  },
  /** Writes `view` and `pages.html`: a web page, Markdown, or a bill as data, as safe markup. */
  markup: { asked: z.object({ form: z.enum(['html', 'markdown', 'bill']) }), told: made },
  /** A bill as data; null for any other text. */
  bill: { asked: nothing, told: invoiceSchema.nullable() },
  /** Writes `view` and `pages.html`: a plain text. */
  text: { asked: nothing, told: made },
  /** Writes `view`: what an archive lists. */
  list: { asked: nothing, told: made },
  /** Writes `plain`: the text of a Word document, for one whose pages cannot be made. */
  plain: { asked: nothing, told: made },
  /** How many bytes an archive says it unpacks to, in all and of markup; null if it is none. */
  unpacked: { asked: nothing, told: z.object({ all: z.number(), markup: z.number() }).nullable() },
  /** Writes `terms`: what a text, a JSON list of pages, is found by. `length`: how many words it has. */
  terms: { asked: z.object({ language: z.string() }), told: z.object({ length: z.number().int() }) },
  /** Writes `change`: the text of a web page or Word document as a note's first change. Null if it is neither. */
  beginNote: {
    asked: z.object({ form: z.enum(['html', 'docx']) }),
    told: z.object({ notKept: z.array(z.string()) }).nullable(),
  },
  /** Writes `note.html` and `change`: the changes of a note, in a JSON list, joined. `broken`: how many were none. */
  keepNote: { asked: z.object({ title: z.string() }), told: z.object({ broken: z.number().int() }) },
  /**
   * Writes `change`: what puts lines into a note, each at the end of its heading's part, or in the stead of the line that it was
   * before. The file has the note's changes and the lines, as JSON.
   */
  addToNote: { asked: nothing, told: nothing },
  /** Writes `note.md`: a web page as Markdown. */
  noteAsMarkdown: { asked: nothing, told: nothing },
  /**
   * Writes `bound`: the pages of a PDF with a page of signatures (a PDF in Base64) behind them, and room for a seal. `attachAs`:
   * the file has no pages; it is attached to the page of signatures under that name. Null if it is no PDF that can be read.
   */
  bind: {
    asked: z.object({
      page: z.string(),
      attachAs: z.object({ name: z.string(), mediaType: z.string() }).nullable(),
      title: z.string(),
      sealedBy: z.string(),
      at: z.iso.datetime(),
    }),
    told: z.object({ pages: z.number().int() }).nullable(),
  },
  /** The seals (PAdES and older signatures) of a PDF, each checked against all bytes. */
  seals: {
    asked: nothing,
    told: z
      .array(
        z.object({
          state: z.enum(['whole', 'altered', 'continued', 'unreadable']),
          /** SHA-256 of the certificate with which it was made; null where it could not be read. */
          fingerprint: z.string().nullable(),
          by: z.string().max(200),
        }),
      )
      .max(20),
  },
  /** Two texts by page, word by word. The file has both as JSON. */
  compare: { asked: nothing, told: comparisonSchema },
  /** What is known of a text as a whole. */
  facts: {
    asked: nothing,
    told: z.object({
      language: z.string().nullable(),
      summary: z.array(z.string()),
      keyWords: z.array(z.string()),
      /** Days (ISO 8601) and references that it names. */
      dates: z.array(z.iso.date()),
      references: z.array(z.string().max(100)),
      /** The same for texts of the same words; null for a text without any. */
      textKey: z.string().nullable(),
      sketch: z.array(z.number().int()).nullable(),
    }),
  },
} as const;

export type CagedTask = keyof typeof cagedTasks;
export type TaskInput<T extends CagedTask> = z.output<(typeof cagedTasks)[T]['asked']>;
export type TaskResult<T extends CagedTask> = z.output<(typeof cagedTasks)[T]['told']>;

const taskNames = Object.keys(cagedTasks) as [CagedTask, ...CagedTask[]];

/** A message to the reader. The file is `content` in its own folder. */
export const cagedMessage = z.object({ task: z.enum(taskNames), asked: z.unknown() });

/** The name of a file that a task may write. */
const fileName = z.string().regex(/^[a-z0-9][a-z0-9.-]{0,40}$/u);

/** What a caged process answers: its result and the files it wrote, or that the content came to too much. */
export const cagedAnswer = z.union([
  z.object({ told: z.unknown(), wrote: z.array(fileName).max(1000) }),
  z.object({ tooLarge: z.literal(true) }),
]);
