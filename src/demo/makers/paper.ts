/** What a maker turns into a file. */
export interface Draft {
  readonly title: string;
  readonly subtitle: string;
  /** The day it was written, at midnight UTC. */
  readonly written: Date;
  readonly author: string;
  readonly paragraphs: readonly string[];
  readonly figures: readonly { readonly what: string; readonly pounds: number }[];
}

/** Turns a draft into the bytes of a file. */
export type Maker = (draft: Draft) => Promise<Buffer>;

/** A day as letters write it. */
export const longDay = (day: Date): string =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' }).format(day);

/** Breaks text into lines of at most so many characters, at blanks. */
export function wrapped(text: string, width: number): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(' ')) {
    if (line !== '' && line.length + 1 + word.length > width) {
      lines.push(line);
      line = word;
    } else line = line === '' ? word : `${line} ${word}`;
  }
  return line === '' ? lines : [...lines, line];
}

/** Text for XML. */
export const escapeXml = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
