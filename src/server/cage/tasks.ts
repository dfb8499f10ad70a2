import { z } from 'zod';

/** What the caged reader can be asked, and what it answers. Files are named by their paths; it has nothing else to go by. */
export const cagedTasks = {
  /** The words of a Word document or a text; null where there are none to count. */
  words: {
    asked: z.object({ file: z.string(), mediaType: z.string() }),
    told: z.number().int().nullable(),
  },
  /** A page (from 1) of a picture or scan as a JPEG, written to `into`; answers how many pages there are. */
  picture: {
    asked: z.object({ file: z.string(), into: z.string(), page: z.number().int(), longestSide: z.number().int() }),
    told: z.object({ pages: z.number().int(), drawn: z.boolean() }),
  },
  /** The same for plain text, which is laid out on pages first. */
  textPicture: {
    asked: z.object({ file: z.string(), into: z.string(), page: z.number().int() }),
    told: z.object({ pages: z.number().int(), drawn: z.boolean() }),
  },
  /** The cells of a CSV, or of a workbook's first sheet; null where it is none. */
  table: {
    asked: z.object({ file: z.string(), form: z.enum(['csv', 'xlsx']) }),
    told: z.array(z.array(z.string())).nullable(),
  },
} as const;

export type CagedTask = keyof typeof cagedTasks;
export type Asked<T extends CagedTask> = z.output<(typeof cagedTasks)[T]['asked']>;
export type Told<T extends CagedTask> = z.output<(typeof cagedTasks)[T]['told']>;

/** What goes over to the reader, and what comes back: an answer, or that there is more of it than is taken. */
export const cagedMessage = z.object({
  task: z.enum(['words', 'picture', 'textPicture', 'table']),
  asked: z.unknown(),
});
export const cagedAnswer = z.union([z.object({ told: z.unknown() }), z.object({ tooLarge: z.literal(true) })]);
