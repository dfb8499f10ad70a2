import type { Extensions } from '@tiptap/core';
import { TableKit } from '@tiptap/extension-table';
import { StarterKit } from '@tiptap/starter-kit';

/**
 * What a note may contain: headings, paragraphs, lists, quotes, tables, rules, emphasis, links. The same in the browser and
 * where a note is turned into a file. Undoing is left to whatever joins the changes of several people.
 */
export const noteExtensions: Extensions = [
  StarterKit.configure({
    heading: { levels: [1, 2, 3] },
    undoRedo: false,
    codeBlock: false,
    link: { openOnClick: false, autolink: true, protocols: ['mailto'], defaultProtocol: 'https' },
  }),
  TableKit.configure({ table: { resizable: false } }),
];

/** The part of a shared document (Yjs) that holds a note's text. */
export const noteField = 'text';
