import { readFile } from 'node:fs/promises';
import * as Y from 'yjs';
import { z } from 'zod';
import { noteField } from '@/core/notes/extensions';
import type { TaskResult } from '@/server/cage/tasks';
import { elementsOf, joinedText, topsOf } from './note';
import { contentFile, type Written } from './written';

/** A line that goes into a note, as the server asks for it. */
const asked = z.object({
  changes: z.array(z.string()),
  lines: z.array(
    z.object({
      /** The number and the whole words of the heading under which it goes. */
      number: z.string(),
      heading: z.string(),
      /** Of ours, one paragraph; empty: the line is taken out. */
      markup: z.string(),
      /** The words of the line that it was before. */
      replaces: z.string().nullable(),
    }),
  ),
});
type Line = z.output<typeof asked>['lines'][number];

/** Puts lines into a note: writes what that changes to `change`. What people wrote stays as it is. */
export async function addToNote(written: Written): Promise<TaskResult<'addToNote'>> {
  const { changes, lines } = asked.parse(JSON.parse(await readFile(contentFile, 'utf8')));
  const { text } = joinedText(changes);
  const before = Y.encodeStateVector(text);
  const fragment = text.getXmlFragment(noteField);
  text.transact(() => {
    for (const line of lines) putLine(fragment, line);
  });
  await written.file('change', Y.encodeStateAsUpdate(text, before));
  return {};
}

function putLine(fragment: Y.XmlFragment, { number, heading, markup, replaces }: Line): void {
  const at = replaces === null ? -1 : elementsOf(fragment).findIndex((each) => wordsOf(each) === replaces);
  if (at >= 0) fragment.delete(at, 1);
  if (markup === '') return;
  const end = at >= 0 ? at : endOf(fragment, number, heading);
  const tops = end === null ? [...topsOf(`<h2></h2>`), ...topsOf(markup)] : topsOf(markup);
  if (end === null) tops[0]?.insert(0, [new Y.XmlText(heading)]);
  fragment.insert(
    end ?? fragment.length,
    tops.map((each) => each.clone()),
  );
}

/** Where the part under an item's heading ends; null where it has none. A heading that was reworded is known by its number. */
function endOf(fragment: Y.XmlFragment, number: string, heading: string): number | null {
  const tops = elementsOf(fragment);
  const isHeading = (each: Y.XmlElement) => each.nodeName === 'heading';
  const named = (matches: (words: string) => boolean) =>
    tops.findIndex((each) => isHeading(each) && matches(wordsOf(each)));
  const exact = named((words) => words === heading);
  const from = exact >= 0 ? exact : named((words) => words.startsWith(`${number} `) || words.startsWith(`${number}. `));
  if (from < 0) return null;
  const next = tops.findIndex((each, at) => at > from && isHeading(each));
  return next < 0 ? tops.length : next;
}

/** The words of a paragraph or heading, without how they look. */
function wordsOf(element: Y.XmlElement): string {
  const words = element.toArray().map((each) => {
    if (!(each instanceof Y.XmlText)) return '';
    const pieces = each.toDelta() as { insert: unknown }[];
    return pieces.map(({ insert }) => (typeof insert === 'string' ? insert : '')).join('');
  });
  return words.join('').replace(/\s+/gu, ' ').trim();
}
