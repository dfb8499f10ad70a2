import { z } from 'zod';

/** The caged reader's tasks, with their inputs and outputs. Files are given by path. */
export const cagedTasks = {
  /** The number of words in a Word document or a text; null if there are none to count. */
  words: {
    asked: z.object({ file: z.string(), mediaType: z.string() }),
    told: z.number().int().nullable(),
  },
  /** Writes a page (from 1) of a picture or scan to `into` as a JPEG; returns the number of pages. */
  picture: {
    asked: z.object({ file: z.string(), into: z.string(), page: z.number().int(), longestSide: z.number().int() }),
    told: z.object({ pages: z.number().int(), drawn: z.boolean() }),
  },
  /** The same for plain text, laid out on pages. */
  textPicture: {
    asked: z.object({ file: z.string(), into: z.string(), page: z.number().int() }),
    told: z.object({ pages: z.number().int(), drawn: z.boolean() }),
  },
  /** The cells of a CSV, or of a workbook's first sheet; null if it is neither. */
  table: {
    asked: z.object({ file: z.string(), form: z.enum(['csv', 'xlsx']) }),
    told: z.array(z.array(z.string())).nullable(),
  },
} as const;

export type CagedTask = keyof typeof cagedTasks;
export type TaskInput<T extends CagedTask> = z.output<(typeof cagedTasks)[T]['asked']>;
export type TaskResult<T extends CagedTask> = z.output<(typeof cagedTasks)[T]['told']>;

/** Messages to the reader and back: an answer, or that the content is too large. */
export const cagedMessage = z.object({
  task: z.enum(['words', 'picture', 'textPicture', 'table']),
  asked: z.unknown(),
});
/** What a caged process writes: its result, or that it came to too much. */
export const cagedAnswer = z.union([z.object({ told: z.unknown() }), z.object({ tooLarge: z.literal(true) })]);
