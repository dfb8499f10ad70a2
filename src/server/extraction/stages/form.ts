import { and, eq } from 'drizzle-orm';
import { hasOwnPages, officeFilters, shownForm, viewForm, type ViewForm } from '@/core/reading/form';
import type { ReadingFault } from '@/core/reading/fault';
import { madeBytes } from '../../cage/file';
import { convertOffice } from '../../cage/office';
import { CagedFault } from '../../cage/limits';
import { readCaged } from '../../cage/reader';
import type { Tx } from '../../db/client';
import { reading, readingForm } from '../../db/schema';
import { takeAttachments } from '../attachments';
import type { Desk } from '../desk';
import { pdfInfo } from './pdf';
import { done, failed, nothing, type RunStage, type StageEnd } from './stageEnd';

/** The filter that lays out what we write ourselves. */
const webPage = 'HTML (StarWriter)';

/** What the stage found: forms to keep, and how many pages there are. */
interface Found {
  readonly pages?: { readonly data: Buffer; readonly count: number } | null;
  readonly view?: ViewForm | null;
  readonly pageCount?: number | null;
  readonly why?: ReadingFault | null;
  readonly also?: (tx: Tx) => Promise<void>;
}

/** Makes what the screen shows: the pages of an office paper, the sheets of a workbook, the parts of a mail. */
export const runForm: RunStage = async (desk) => {
  const form = shownForm(desk.mediaType);
  const found = form === null ? {} : await ways[form](desk);
  const { pages = null, view = null, pageCount = null, why = null, also } = found;
  const write = async (tx: Tx) => {
    const { sha256 } = desk.content;
    await keepForm(tx, sha256, 'pages', pages);
    await keepForm(tx, sha256, 'view', view && { data: Buffer.from(JSON.stringify(view)), count: null });
    const counted = hasOwnPages(desk.mediaType) ? pageCount : null;
    await tx
      .insert(reading)
      .values({ sha256, pageCount: counted })
      .onConflictDoUpdate({ target: reading.sha256, set: { pageCount: counted } });
    await also?.(tx);
  };
  if (pages === null && view === null && pageCount === null)
    return { ...(why === null ? nothing : failed(why)), write };
  return { ...(why === null ? done : ({ outcome: 'part', why } satisfies StageEnd)), write };
};

async function keepForm(
  tx: Tx,
  sha256: string,
  form: 'pages' | 'view',
  made: { readonly data: Buffer; readonly count: number | null } | null,
): Promise<void> {
  await tx.delete(readingForm).where(and(eq(readingForm.sha256, sha256), eq(readingForm.form, form)));
  if (!made) return;
  const { data, count } = made;
  await tx.insert(readingForm).values({ sha256, form, pages: count, sizeBytes: data.length, data });
}

const ways: Readonly<Record<NonNullable<ReturnType<typeof shownForm>>, (desk: Desk) => Promise<Found>>> = {
  pages: async (desk) => {
    if (desk.mediaType === 'application/pdf') {
      const info = await pdfInfo(await desk.file(), desk.folder);
      return typeof info === 'string' ? { why: info } : { pageCount: info.pages };
    }
    return laidOut(desk, await desk.file(), filterOf(desk));
  },

  sheets: async (desk) => {
    const file = await desk.file();
    if (desk.mediaType === 'text/csv') {
      const made = await readCaged('sheets', file, { form: 'csv' });
      // Read at once: the next task writes a view of its own.
      const view = await viewOf(desk);
      return { view, pages: (await textPages(desk)).pages, why: made?.cut ? 'cut' : null };
    }
    const pages = await laidOut(desk, file, filterOf(desk));
    if (pages.why) return pages;
    const workbook = await asWorkbook(desk, file);
    if (workbook === null) return { ...pages, why: 'damaged' };
    const made = await orFault(readCaged('sheets', workbook, { form: 'xlsx' }));
    if (typeof made === 'string') return { ...pages, why: made };
    if (made === null) return { ...pages, why: 'damaged' };
    return { ...pages, view: await viewOf(desk), why: made.cut ? 'cut' : null };
  },

  mail: async (desk) => {
    const form = desk.mediaType === 'message/rfc822' ? 'eml' : 'msg';
    const told = await readCaged('mail', await desk.file(), { form });
    const view = told === null ? null : await viewOf(desk);
    if (told === null || view?.form !== 'mail') return { why: 'damaged' };
    const taken = await takeAttachments(desk, told.attachments);
    const why = told.cut || told.more > 0 ? 'cut' : null;
    return { ...(await webPages(desk)), view: { ...view, attachments: taken.listed }, why, also: taken.keep };
  },

  markup: async (desk) => {
    const made = await readCaged('markup', await desk.file(), {});
    return { ...(await webPages(desk)), view: await viewOf(desk), why: made?.cut ? 'cut' : null };
  },

  text: async (desk) => {
    const { pages, cut } = await textPages(desk);
    return { pages, view: await viewOf(desk), why: cut ? 'cut' : null };
  },

  list: async (desk) => {
    const made = await readCaged('list', await desk.file(), {});
    return made === null ? { why: 'damaged' } : { view: await viewOf(desk), why: made.cut ? 'cut' : null };
  },

  picture: async (desk) => {
    const { pages, drawn } = await readCaged('picture', await desk.file(), { page: 1, longestSide: 64 });
    return drawn ? { pageCount: pages } : { why: 'damaged' };
  },
};

const filterOf = (desk: Desk): string => officeFilters[desk.mediaType]?.filter ?? '';

/** An office paper that unpacks to more does not fit into the memory that reading it may take. In bytes. */
const mostUnpacked = { all: 800_000_000, markup: 100_000_000 } as const;

/** Lays a file out on pages. */
async function laidOut(desk: Desk, file: string, filter: string): Promise<Found> {
  const unpacked = await readCaged('unpacked', file, {});
  if (unpacked && (unpacked.all > mostUnpacked.all || unpacked.markup > mostUnpacked.markup))
    return { why: 'tooLarge' };
  const end = await convertOffice(file, filter, 'pages', 'pages.pdf');
  if (end !== 'done') return { why: end };
  const data = await madeBytes(desk.within('pages.pdf'));
  // It says that it is done also where it wrote nothing of use.
  const info = await pdfInfo(desk.within('pages.pdf'), desk.folder);
  if (!data || typeof info === 'string') return { why: 'damaged' };
  desk.setPages(desk.within('pages.pdf'));
  return { pages: { data, count: info.pages }, pageCount: info.pages };
}

/** Pages of what a task wrote as a web page of ours. Without them the paper is still shown: nothing fails for it. */
async function webPages(desk: Desk): Promise<Found> {
  const file = desk.within('pages.html');
  if (!(await madeBytes(file))) return {};
  const found = await orFault(laidOut(desk, file, webPage));
  return typeof found === 'string' || found.why ? {} : { pages: found.pages ?? null };
}

async function textPages(desk: Desk): Promise<{ pages: NonNullable<Found['pages']> | null; cut: boolean }> {
  const made = await readCaged('text', await desk.file(), {});
  const { pages = null } = await webPages(desk);
  return { pages, cut: made?.cut ?? false };
}

async function asWorkbook(desk: Desk, file: string): Promise<string | null> {
  if (desk.mediaType.endsWith('spreadsheetml.sheet')) return file;
  const end = await convertOffice(file, filterOf(desk), 'workbook', 'workbook');
  return end === 'done' ? desk.within('workbook') : null;
}

/** The form for the screen that a task has written, checked: it comes out of the cage. */
async function viewOf(desk: Desk): Promise<ViewForm | null> {
  const bytes = await madeBytes(desk.within('view'));
  if (!bytes) return null;
  const read = viewForm.safeParse(JSON.parse(bytes.toString('utf8').replace(/\\u0000/gu, '')));
  if (!read.success) throw new CagedFault('brokeOff');
  return read.data;
}

/** What some work came to; or why it was stopped, where the rest can do without it. */
async function orFault<T>(work: Promise<T>): Promise<T | CagedFault['why']> {
  return work.catch((error: unknown) => {
    if (error instanceof CagedFault) return error.why;
    throw error;
  });
}
