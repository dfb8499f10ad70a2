import { eq } from 'drizzle-orm';
import { Chance } from '@/core/chance/chance';
import { viewForm, type ViewForm } from '@/core/reading/form';
import { readingOf } from '@/core/reading/stages';
import { fileBuffer } from '@/demo/file';
import { makers } from '@/demo/papers';
import { Prose } from '@/demo/prose';
import type { Actor } from '@/server/gate/actor';
import { CagedFault } from '@/server/cage/limits';
import { db } from '@/server/db/client';
import { document, reading, readingPage, version } from '@/server/db/schema';
import { formOf } from '@/server/extraction/openContent';
import { readStages, resultsOf } from '@/server/extraction/read';

/** The content of a paper's current version. */
export async function contentOf(documentId: string): Promise<string> {
  const [row] = await db()
    .select({ sha256: version.sha256 })
    .from(version)
    .innerJoin(document, eq(document.versionId, version.id))
    .where(eq(document.id, documentId));
  if (!row) throw new Error(`There is no paper ${documentId}`);
  return row.sha256;
}

/** Has a paper read here and now, and again where an attempt breaks off, as the worker does. Returns its content's name. */
export async function readPaper(documentId: string): Promise<string> {
  const sha256 = await contentOf(documentId);
  for (;;) {
    try {
      await readStages(sha256);
      return sha256;
    } catch (error) {
      // A stage is given up after its second attempt, so this ends.
      if (!(error instanceof CagedFault)) throw error;
    }
  }
}

/** What the makers of papers make, where a test does not care. */
export const draft = {
  title: 'Survey of the north wall',
  subtitle: 'Works & dredging',
  written: new Date('2026-07-14T00:00:00Z'),
  author: 'Kea Keeper',
  paragraphs: new Prose(new Chance(5)).paragraphs(3, 5),
  figures: new Prose(new Chance(6)).figures(4),
};

/** A file of a kind, by its ending. */
export const made = (ending: string, over: Partial<typeof draft> = {}): Promise<Buffer> => {
  const maker = makers[ending];
  if (!maker) throw new Error(`Nobody makes .${ending}`);
  return maker({ ...draft, ...over });
};

/** Files content and has the worker's own work done on it; what is then known of it. */
export async function fileAndRead(actor: Actor, placeId: string, fileName: string, content: Buffer) {
  const id = await fileBuffer(actor, placeId, fileName, content);
  const sha256 = await readPaper(id);
  const [paper] = await db()
    .select({ pages: document.pageCount, words: document.wordCount, stamp: document.stamp })
    .from(document)
    .where(eq(document.id, id));
  const texts = await db()
    .select({ words: readingPage.words })
    .from(readingPage)
    .where(eq(readingPage.sha256, sha256))
    .orderBy(readingPage.page);
  const [found] = await db().select().from(reading).where(eq(reading.sha256, sha256));
  return {
    id,
    sha256,
    ...paper,
    ...readingOf(await resultsOf(sha256), false),
    text: texts.map(({ words }) => words),
    found,
    hasPages: (await formOf(sha256, 'pages'))?.subarray(0, 5).toString('latin1') === '%PDF-',
    hasPicture: found?.picture?.subarray(0, 3).toString('hex') === 'ffd8ff',
  };
}

/** A paper's view, which has to be of that form. */
export async function viewOf<F extends ViewForm['form']>(
  sha256: string,
  form: F,
): Promise<Extract<ViewForm, { form: F }>> {
  const view = viewForm.parse(JSON.parse((await formOf(sha256, 'view'))?.toString('utf8') ?? 'null'));
  if (view.form !== form) throw new Error(`It is shown as ${view.form}`);
  return view as Extract<ViewForm, { form: F }>;
}
