import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { and, eq } from 'drizzle-orm';
import { contentFile } from '../cage/file';
import type { Content } from '../blobs/contentStore';
import { db } from '../db/client';
import { readingForm } from '../db/schema';

/** Content that is read, and what kind it was found to be when it was filed. */
export interface ReadContent extends Content {
  readonly mediaType: string;
}

/** The pages of some content have to be looked at, and this reading may not take so long. */
export class NeedsLooking extends Error {
  override readonly name = 'NeedsLooking';
}

/** Where the stages of one reading work: a folder of their own, into which the content is written at most once. */
export class Desk {
  /** Whether its form could not be made: what builds on that need not fail for the same reason again. */
  formFailed = false;
  #file: Promise<string> | null = null;
  #pages: Promise<string | null> | null = null;

  constructor(
    readonly content: ReadContent,
    readonly folder: string,
    /** Whether pages may be looked at for what is written on them, which is slow. */
    readonly mayLook: boolean,
  ) {}

  get mediaType(): string {
    return this.content.mediaType;
  }

  within(name: string): string {
    return path.join(this.folder, name);
  }

  /** The content as a file. */
  file(): Promise<string> {
    return (this.#file ??= contentFile(this.folder, this.content));
  }

  /** Its pages as a PDF: the content itself, or what the `form` stage made; null if it has none. */
  pages(): Promise<string | null> {
    return (this.#pages ??= this.mediaType === 'application/pdf' ? this.file() : this.#made());
  }

  /** Makes a file in the folder known as the content's pages. */
  setPages(file: string): void {
    this.#pages = Promise.resolve(file);
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
