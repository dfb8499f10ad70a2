'use client';

import {
  ArrowUUpLeftIcon,
  ArrowUUpRightIcon,
  LinkIcon,
  ListBulletsIcon,
  ListNumbersIcon,
  QuotesIcon,
  TextBIcon,
  TextItalicIcon,
  TextUnderlineIcon,
  type Icon,
} from '@phosphor-icons/react';
import { useEditorState, type Editor } from '@tiptap/react';
import { useState } from 'react';
import { Button } from '../kit/button';
import { Menu } from '../kit/menu';
import { NoteLinkDialog } from './NoteLinkDialog';

interface Tool {
  readonly name: string;
  readonly keys?: string;
  readonly icon: Icon;
  readonly is?: (editor: Editor) => boolean;
  readonly act: (editor: Editor) => void;
}

const tools: readonly Tool[] = [
  {
    name: 'Bold',
    keys: 'Ctrl B',
    icon: TextBIcon,
    is: (editor) => editor.isActive('bold'),
    act: (editor) => editor.chain().focus().toggleBold().run(),
  },
  {
    name: 'Italic',
    keys: 'Ctrl I',
    icon: TextItalicIcon,
    is: (editor) => editor.isActive('italic'),
    act: (editor) => editor.chain().focus().toggleItalic().run(),
  },
  {
    name: 'Underline',
    keys: 'Ctrl U',
    icon: TextUnderlineIcon,
    is: (editor) => editor.isActive('underline'),
    act: (editor) => editor.chain().focus().toggleUnderline().run(),
  },
  {
    name: 'List',
    icon: ListBulletsIcon,
    is: (editor) => editor.isActive('bulletList'),
    act: (editor) => editor.chain().focus().toggleBulletList().run(),
  },
  {
    name: 'Numbered list',
    icon: ListNumbersIcon,
    is: (editor) => editor.isActive('orderedList'),
    act: (editor) => editor.chain().focus().toggleOrderedList().run(),
  },
  {
    name: 'Quotation',
    icon: QuotesIcon,
    is: (editor) => editor.isActive('blockquote'),
    act: (editor) => editor.chain().focus().toggleBlockquote().run(),
  },
];

const levels = [1, 2, 3] as const;

/** What can be done with the text of a note. */
export function NoteTools({ editor, disabled }: { readonly editor: Editor; readonly disabled: boolean }) {
  const [linking, setLinking] = useState(false);
  const state = useEditorState({
    editor,
    selector: ({ editor: now }) => ({
      on: tools.map(({ is }) => is?.(now) ?? false).join(),
      level: levels.find((level) => now.isActive('heading', { level })) ?? 0,
      inTable: now.isActive('table'),
    }),
  });
  const on = state.on.split(',');
  const table = [
    ...(state.inTable
      ? [
          { label: 'Row below', act: () => void editor.chain().focus().addRowAfter().run() },
          { label: 'Column after', act: () => void editor.chain().focus().addColumnAfter().run() },
          { label: 'Remove the row', act: () => void editor.chain().focus().deleteRow().run(), apart: true },
          { label: 'Remove the column', act: () => void editor.chain().focus().deleteColumn().run() },
          { label: 'Remove the table', act: () => void editor.chain().focus().deleteTable().run() },
        ]
      : [
          {
            label: 'Insert a table',
            act: () => void editor.chain().focus().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run(),
          },
        ]),
  ];
  return (
    <div
      role="toolbar"
      aria-label="The text"
      className="flex flex-wrap items-center gap-1 border-b border-line bg-fog px-4 py-1"
    >
      <select
        aria-label="What this paragraph is"
        disabled={disabled}
        value={state.level}
        onChange={({ target }) => {
          const level = levels.find((each) => each === Number(target.value));
          const chain = editor.chain().focus();
          (level ? chain.setHeading({ level }) : chain.setParagraph()).run();
        }}
        className="h-[28px] rounded-sm border border-line bg-sheet px-1.5"
      >
        <option value={0}>Text</option>
        {levels.map((level) => (
          <option key={level} value={level}>{`Heading ${level}`}</option>
        ))}
      </select>
      {tools.map(({ name, keys, icon: Sign, act }, index) => (
        <Button
          key={name}
          look="quiet"
          disabled={disabled}
          aria-label={name}
          title={keys ? `${name} (${keys})` : name}
          aria-pressed={on[index] === 'true'}
          className={`!h-[28px] !px-1.5 ${on[index] === 'true' ? 'bg-brine-wash text-brine-ink' : ''}`}
          onClick={() => act(editor)}
        >
          <Sign size={16} aria-hidden />
        </Button>
      ))}
      <Button
        look="quiet"
        disabled={disabled}
        aria-label="Link to a paper, a place or an address"
        title="Link to a paper, a place or an address"
        className="!h-[28px] !px-1.5"
        onClick={() => setLinking(true)}
      >
        <LinkIcon size={16} aria-hidden />
      </Button>
      {!disabled && <Menu label="Table" look="quiet" className="!h-[28px]" acts={table} />}
      <span className="ml-auto flex">
        <Button
          look="quiet"
          disabled={disabled}
          aria-label="Undo"
          title="Undo (Ctrl Z)"
          className="!h-[28px] !px-1.5"
          onClick={() => editor.chain().focus().undo().run()}
        >
          <ArrowUUpLeftIcon size={16} aria-hidden />
        </Button>
        <Button
          look="quiet"
          disabled={disabled}
          aria-label="Redo"
          title="Redo (Ctrl Y)"
          className="!h-[28px] !px-1.5"
          onClick={() => editor.chain().focus().redo().run()}
        >
          <ArrowUUpRightIcon size={16} aria-hidden />
        </Button>
      </span>
      {linking && <NoteLinkDialog editor={editor} onClose={() => setLinking(false)} />}
    </div>
  );
}
