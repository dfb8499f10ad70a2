import { readFile } from 'node:fs/promises';
import { getSchema, type JSONContent } from '@tiptap/core';
import { generateHTML, generateJSON } from '@tiptap/html';
import { MarkdownManager } from '@tiptap/markdown';
import { prosemirrorJSONToYDoc, yDocToProsemirrorJSON } from '@tiptap/y-tiptap';
import * as Y from 'yjs';
import { noteExtensions, noteField } from '@/core/notes/extensions';
import type { TaskInput, TaskResult } from '@/server/cage/tasks';
import { decodedText } from './decoded';
import { escapedMarkup as escaped } from '@/core/text/markup';
import { safeMarkup } from './markup';
import { contentFile, TooLarge, type Written } from './written';

/** The most text that becomes a note. In bytes of markup. */
const mostBytes = 4_000_000;

const schema = getSchema(noteExtensions);

/** Makes a note of a web page or a Word document: writes its first change to `change`; tells what it cannot keep. */
export async function beginNote({ form }: TaskInput<'beginNote'>, written: Written): Promise<TaskResult<'beginNote'>> {
  const read = form === 'docx' ? await wordMarkup() : await pageMarkup();
  if (read === null) return null;
  if (read.markup.length > mostBytes) throw new TooLarge();
  const markup = safeMarkup(read.markup);
  const json = checked(generateJSON(bodyOf(markup), noteExtensions) as JSONContent);
  await written.file('change', Y.encodeStateAsUpdate(prosemirrorJSONToYDoc(schema, json, noteField)));
  return { notKept: [...read.notKept, ...lostOf(markup)] };
}

/** Joins the changes of a note: writes its text as a web page to `note.html`, and all changes as one to `change`. */
export async function keepNote({ title }: TaskInput<'keepNote'>, written: Written): Promise<TaskResult<'keepNote'>> {
  const { text, broken } = joinedText(JSON.parse(await readFile(contentFile, 'utf8')) as string[]);
  const json = checked(yDocToProsemirrorJSON(text, noteField) as JSONContent);
  await written.file('note.html', notePage(title, generateHTML(json, noteExtensions)));
  await written.file('change', Y.encodeStateAsUpdate(text));
  return { broken };
}

/** The text that the changes of a note come to, and how many of them are none. */
export function joinedText(changes: readonly string[]): { readonly text: Y.Doc; readonly broken: number } {
  const text = new Y.Doc();
  let broken = 0;
  for (const change of changes) {
    try {
      Y.applyUpdate(text, Buffer.from(change, 'base64'));
    } catch {
      // One that is none is left out: it must not take along what others wrote.
      broken += 1;
    }
  }
  return { text, broken };
}

/** The tops of a note made of markup of ours. */
export function topsOf(markup: string): Y.XmlElement[] {
  const made = prosemirrorJSONToYDoc(schema, generateJSON(markup, noteExtensions) as JSONContent, noteField);
  return elementsOf(made.getXmlFragment(noteField));
}

/** The tops of a note's text: paragraphs, headings, lists, tables. */
export const elementsOf = (text: Y.XmlFragment): Y.XmlElement[] =>
  text.toArray().filter((each): each is Y.XmlElement => each instanceof Y.XmlElement);

/** Writes a note, given as a web page, as Markdown to `note.md`. */
export async function noteAsMarkdown(written: Written): Promise<TaskResult<'noteAsMarkdown'>> {
  const { text } = await decodedText(contentFile, mostBytes, 'asNamed');
  const json = checked(generateJSON(bodyOf(safeMarkup(text)), noteExtensions) as JSONContent);
  const markdown = new MarkdownManager({ extensions: noteExtensions }).serialize(json);
  await written.file('note.md', `${markdown.trim()}\n`);
  return {};
}

/** A note as a whole web page, which any browser shows without us. */
const notePage = (title: string, body: string): string => `<!DOCTYPE html>
<html lang="en"><head><meta charset="utf-8"><title>${escaped(title)}</title><style>
body { font-family: sans-serif; max-width: 46em; margin: 2em auto; line-height: 1.5 }
table { border-collapse: collapse } td, th { border: 1px solid #999; padding: 0.3em 0.5em; text-align: left; vertical-align: top }
</style></head><body>
${body}
</body></html>
`;

/** A note's text with what does not fit it left out, top by top: nobody's broken part spoils the rest. */
function checked(json: JSONContent): JSONContent {
  const content = (json.content ?? []).filter((each) => {
    try {
      schema.nodeFromJSON(each).check();
      return true;
    } catch {
      return false;
    }
  });
  return { type: 'doc', content: content.length > 0 ? content : [{ type: 'paragraph' }] };
}

interface Markup {
  readonly markup: string;
  readonly notKept: readonly string[];
}

async function pageMarkup(): Promise<Markup> {
  const { text, cut } = await decodedText(contentFile, mostBytes, 'asNamed');
  return { markup: text, notKept: cut ? ['What comes after the first four megabytes'] : [] };
}

/** The markup of a Word document. Its pictures are left out: a note has none. */
async function wordMarkup(): Promise<Markup | null> {
  const { default: mammoth } = await import('mammoth');
  const bytes = await readFile(contentFile);
  const read = await mammoth.convertToHtml({ buffer: bytes }).catch(() => null);
  if (read === null) return null;
  return { markup: read.value, notKept: await partsLost(bytes) };
}

/** Parts of a Word document (ECMA-376, part 1, section 11.3) that have no counterpart in a note, in words. */
const lostParts: readonly (readonly [RegExp, string])[] = [
  [/^word\/(?:header|footer)\d*\.xml$/u, 'Headers and footers of its pages'],
  [/^word\/(?:charts|diagrams)\//u, 'Charts and diagrams'],
  [/^word\/embeddings\//u, 'Embedded files'],
];
/** The same by what stands in the document's own markup and its comments'. */
const lostMarkup: readonly (readonly [RegExp, string])[] = [
  [/<w:comment /u, 'Comments'],
  [/<w:(?:ins|del) /u, 'Tracked changes: all are taken as accepted'],
  [/<w:txbxContent>/u, 'Where text boxes stood'],
  [/<w:sectPr\b[^>]*>.*<w:cols\b[^>]*w:num=/su, 'Columns'],
  [/<w:color |<w:sz |<w:highlight /u, 'Fonts, sizes and colours'],
];

async function partsLost(bytes: Buffer): Promise<string[]> {
  const { unzipSync, strFromU8 } = await import('fflate');
  const names: string[] = [];
  const files = unzipSync(new Uint8Array(bytes), {
    filter: ({ name, originalSize }) => {
      names.push(name);
      return /^word\/(?:document|comments)\.xml$/u.test(name) && originalSize < 50_000_000;
    },
  });
  const markup = Object.values(files)
    .map((file) => strFromU8(file))
    .join('\n');
  return [
    ...lostParts.filter(([part]) => names.some((name) => part.test(name))).map(([, words]) => words),
    ...lostMarkup.filter(([pattern]) => pattern.test(markup)).map(([, words]) => words),
  ];
}

const lostOf = (markup: string): string[] => (/<img\b/u.test(markup) ? ['Pictures'] : []);

/** What stands in the body, where a page has one. */
const bodyOf = (markup: string): string => /<body[^>]*>(?<body>.*)<\/body>/su.exec(markup)?.groups?.['body'] ?? markup;
