import { and, eq } from 'drizzle-orm';
import { hasOwnPages, officeFilters, shownForm, viewForm, type ViewForm } from '@/core/reading/form';
import type { ReadingFault } from '@/core/reading/fault';
import { madeBytes } from '../../cage/file';
import { convertOffice } from '../../cage/office';
import { CagedFault } from '../../cage/limits';
import { readCaged } from '../../cage/reader';
import type { Tx } from '../../db/client';
import { pagePicture, reading, readingForm } from '../../db/schema';
import { takeAttachments } from '../attachments';
import type { OpenContent } from '../openContent';
import { pdfInfo } from '../pdf';
import { done, failed, nothing, type RunStage, type StageEnd } from './stageEnd';

/** The filter that lays out what we write ourselves. */
/** Which markup content of a media type is; all else is a web page. */
const markupForms: Readonly<Record<string, 'markdown' | 'bill'>> = {
  'text/markdown': 'markdown',
  'application/xml': 'bill',
};

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
export const runForm: RunStage = async (opened) => {
  const form = shownForm(opened.mediaType);
  const found = form === null ? {} : await ways[form](opened);
  const { pages = null, view = null, pageCount = null, why = null, also } = found;
  const write = async (tx: Tx) => {
    const { sha256 } = opened.content;
    await keepForm(tx, sha256, 'pages', pages);
    await keepForm(tx, sha256, 'view', view && { data: Buffer.from(JSON.stringify(view)), count: null });
    const counted = hasOwnPages(opened.mediaType) ? pageCount : null;
    await tx
      .insert(reading)
      .values({ sha256, pageCount: counted })
      .onConflictDoUpdate({ target: reading.sha256, set: { pageCount: counted } });
    // Pictures of pages as they were before.
    await tx.delete(pagePicture).where(eq(pagePicture.sha256, sha256));
    await also?.(tx);
  };
  if (pages === null && view === null && pageCount === null)
    return { ...(why === null ? nothing : failed(why)), write };
  return { ...(why === null ? done : ({ outcome: 'part', why } satisfies StageEnd)), write };
};

/** Keeps a form of some content in the place of the one before; null for none. */
export async function keepForm(
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

const ways: Readonly<Record<NonNullable<ReturnType<typeof shownForm>>, (opened: OpenContent) => Promise<Found>>> = {
  pages: async (opened) => {
    if (opened.mediaType === 'application/pdf') {
      const info = await opened.info();
      return info === null || typeof info === 'string' ? { why: info } : { pageCount: info.pages };
    }
    return laidOut(opened, await opened.file(), filterOf(opened));
  },

  sheets: async (opened) => {
    const file = await opened.file();
    if (opened.mediaType === 'text/csv') {
      const made = await readCaged('sheets', file, { form: 'csv' });
      // Read at once: the next task writes a view of its own.
      const view = await viewOf(opened);
      return { view, pages: (await textPages(opened)).pages, why: made?.cut ? 'cut' : null };
    }
    const pages = await laidOut(opened, file, filterOf(opened));
    if (pages.why) return pages;
    const workbook = await asWorkbook(opened, file);
    if (workbook === null) return { ...pages, why: 'damaged' };
    const made = await orFault(opened, readCaged('sheets', workbook, { form: 'xlsx' }));
    if (typeof made === 'string') return { ...pages, why: made };
    if (made === null) return { ...pages, why: 'damaged' };
    return { ...pages, view: await viewOf(opened), why: made.cut ? 'cut' : null };
  },

  mail: async (opened) => {
    const form = opened.mediaType === 'message/rfc822' ? 'eml' : 'msg';
    const told = await readCaged('mail', await opened.file(), { form });
    const view = told === null ? null : await viewOf(opened);
    if (told === null || view?.form !== 'mail') return { why: 'damaged' };
    const taken = await takeAttachments(opened, told.attachments);
    const why = told.cut || told.more > 0 ? 'cut' : null;
    return { ...(await webPages(opened)), view: { ...view, attachments: taken.listed }, why, also: taken.keep };
  },

  markup: async (opened) => {
    const form = markupForms[opened.mediaType] ?? 'html';
    const made = await readCaged('markup', await opened.file(), { form });
    return { ...(await webPages(opened)), view: await viewOf(opened), why: made?.cut ? 'cut' : null };
  },

  text: async (opened) => {
    const { pages, cut } = await textPages(opened);
    return { pages, view: await viewOf(opened), why: cut ? 'cut' : null };
  },

  list: async (opened) => {
    const made = await readCaged('list', await opened.file(), {});
    return made === null ? { why: 'damaged' } : { view: await viewOf(opened), why: made.cut ? 'cut' : null };
  },

  picture: async (opened) => {
    const { pages, drawn } = await readCaged('picture', await opened.file(), { page: 1, longestSide: 64 });
    return drawn ? { pageCount: pages } : { why: 'damaged' };
  },
};

const filterOf = (opened: OpenContent): string => officeFilters[opened.mediaType]?.filter ?? '';

/** An office paper that unpacks to more does not fit into the memory that reading it may take. In bytes. */
const mostUnpacked = { all: 800_000_000, markup: 100_000_000 } as const;

/** Lays a file out on pages. */
async function laidOut(opened: OpenContent, file: string, filter: string): Promise<Found> {
  const unpacked = await readCaged('unpacked', file, {});
  if (unpacked && (unpacked.all > mostUnpacked.all || unpacked.markup > mostUnpacked.markup))
    return { why: 'tooLarge' };
  const end = await convertOffice(file, filter, 'pages', 'pages.pdf');
  if (end !== 'done') return { why: end };
  const data = await madeBytes(opened.within('pages.pdf'));
  // It says that it is done also where it wrote nothing of use.
  const info = await pdfInfo(opened.within('pages.pdf'), opened.folder);
  if (!data || typeof info === 'string') return { why: 'damaged' };
  opened.setPages(opened.within('pages.pdf'), info);
  return { pages: { data, count: info.pages }, pageCount: info.pages };
}

/** Pages of what a task wrote as a web page of ours. Without them the paper is still shown: nothing fails for it. */
async function webPages(opened: OpenContent): Promise<Found> {
  const file = opened.within('pages.html');
  if (!(await madeBytes(file))) return {};
  const found = await orFault(opened, laidOut(opened, file, webPage));
  return typeof found === 'string' || found.why ? {} : { pages: found.pages ?? null };
}

async function textPages(opened: OpenContent): Promise<{ pages: NonNullable<Found['pages']> | null; cut: boolean }> {
  const made = await readCaged('text', await opened.file(), {});
  const { pages = null } = await webPages(opened);
  return { pages, cut: made?.cut ?? false };
}

async function asWorkbook(opened: OpenContent, file: string): Promise<string | null> {
  if (opened.mediaType.endsWith('spreadsheetml.sheet')) return file;
  const end = await convertOffice(file, filterOf(opened), 'workbook', 'workbook');
  return end === 'done' ? opened.within('workbook') : null;
}

/** The form for the screen that a task has written, checked: it comes out of the cage. */
async function viewOf(opened: OpenContent): Promise<ViewForm | null> {
  const bytes = await madeBytes(opened.within('view'));
  if (!bytes) return null;
  const read = viewForm.safeParse(JSON.parse(bytes.toString('utf8').replace(/\\u0000/gu, '')));
  if (!read.success) throw new CagedFault('brokeOff');
  return read.data;
}

/** What some work came to; or, at the last attempt, why it was stopped: the rest can do without it. */
async function orFault<T>(opened: OpenContent, work: Promise<T>): Promise<T | CagedFault['why']> {
  return work.catch((error: unknown) => {
    if (error instanceof CagedFault && opened.isLastAttempt) return error.why;
    throw error;
  });
}
