import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { and, eq } from 'drizzle-orm';
import { viewForm, type ViewForm } from '@/core/reading/form';
import { contentFile, madeBytes } from '../cage/file';
import { pageLimits } from '../cage/limits';
import { runProgram } from '../cage/program';
import type { Content } from '../blobs/contentStore';
import { db } from '../db/client';
import { readingForm } from '../db/schema';
import { pdfInfo, type PdfInfo } from './pdf';

/** Content that is read, and what kind it was found to be when it was filed. */
export interface ReadContent extends Content {
  readonly mediaType: string;
}

/** The pages of some content need OCR, and this reading may not take so long. */
export class NeedsOcr extends Error {
  override readonly name = 'NeedsOcr';
}

/** Content that is being read, in a folder of its own into which it is written at most once. */
export class OpenContent {
  /** Whether its form could not be made: what builds on that need not fail for the same reason again. */
  formFailed = false;
  /** Whether this is the last attempt at a stage: what the rest can do without is then left out instead of tried again. */
  isLastAttempt = false;
  #info: Promise<PdfInfo | null> | null = null;
  #file: Promise<string> | null = null;
  #pages: Promise<string | null> | null = null;

  constructor(
    readonly content: ReadContent,
    readonly folder: string,
    /** Whether pages may be read by OCR, which is slow. */
    readonly mayOcr: boolean,
  ) {}

  get mediaType(): string {
    return this.content.mediaType;
  }

  within(name: string): string {
    return path.join(this.folder, name);
  }

  /** The content as a file that our readers can read: of a HEIC picture, a JPEG of it. */
  file(): Promise<string> {
    return (this.#file ??= this.#written());
  }

  /** Its pages as a PDF: the content itself, or what the `form` stage made; null if it has none. */
  pages(): Promise<string | null> {
    return (this.#pages ??= this.mediaType === 'application/pdf' ? this.file() : this.#made());
  }

  /** The pages with text on them: of a scan those that OCR made, of anything else its pages. */
  async searchable(): Promise<string | null> {
    return (await this.#made()) ?? this.pages();
  }

  /** Makes a file in the folder known as the content's pages. */
  setPages(file: string, info: PdfInfo): void {
    this.#pages = Promise.resolve(file);
    this.#info = Promise.resolve(info);
  }

  /** What its pages say of themselves, asked once; null if it has none. */
  info(): Promise<PdfInfo | null> {
    return (this.#info ??= this.pages().then((file) => (file === null ? null : pdfInfo(file, this.folder))));
  }

  async #written(): Promise<string> {
    const file = await contentFile(this.folder, this.content);
    if (this.mediaType !== 'image/heic') return file;
    const drawn = this.within('drawn.jpg');
    const end = await runProgram('heif-convert', ['-q', '90', file, drawn], this.folder, pageLimits);
    // Without one, it is read as a picture that is damaged.
    return end.ok && (await madeBytes(drawn)) ? drawn : file;
  }

  async #made(): Promise<string | null> {
    const data = await formOf(this.content.sha256, 'pages');
    if (!data) return null;
    const file = this.within('pages.pdf');
    await writeFile(file, data);
    return file;
  }
}

/** A form of some content as it is kept; null if there is none. */
export async function formOf(sha256: string, form: 'pages' | 'view'): Promise<Buffer | null> {
  const [found] = await db()
    .select({ data: readingForm.data })
    .from(readingForm)
    .where(and(eq(readingForm.sha256, sha256), eq(readingForm.form, form)));
  return found?.data ?? null;
}

/** What the screen shows of some content that is not shown as pages; null if there is nothing. */
export async function viewOf(sha256: string): Promise<ViewForm | null> {
  const data = await formOf(sha256, 'view');
  return data && viewForm.parse(JSON.parse(data.toString('utf8')));
}
