'use client';

import { useRef, useState } from 'react';
import type { Lexicon } from '@/core/columns/lexicon';
import { isListed, type Column } from '@/core/columns/model';
import { choiceSign } from '@/core/columns/read';
import { searchKey } from '@/core/text/fold';
import { lexiconOf } from './useColumns';

interface Props {
  readonly column: Column;
  readonly text: string;
  readonly lexicons: ReadonlyMap<string, Lexicon>;
  readonly onCommit: (text: string, then: 'down' | 'right' | 'left' | 'stay') => void;
  readonly onCancel: () => void;
}

const offered = 8;

/** The input of a cell; for a column with a list it offers matching terms, selected with the arrow keys. */
export function CellInput({ column, text: begun, lexicons, onCommit, onCancel }: Props) {
  const [text, setText] = useState(begun);
  const [marked, setMarked] = useState(-1);
  const over = useRef(false);
  const parts = column.type === 'choices' ? text.split(choiceSign) : [text];
  const key = searchKey(parts.at(-1) ?? '');
  const terms = isListed(column.type) ? (lexiconOf(column, lexicons)?.inOrder() ?? []) : [];
  const fitting = terms
    .filter(
      ({ term }) => !term.retired && [term.name, ...term.otherNames].some((name) => searchKey(name).includes(key)),
    )
    .slice(0, offered);
  const withTerm = (name: string): string =>
    [...parts.slice(0, -1), name].map((part) => part.trim()).join(`${choiceSign} `);

  function end(then: 'down' | 'right' | 'left' | 'stay') {
    if (over.current) return;
    over.current = true;
    const term = fitting[marked]?.term;
    onCommit(term ? withTerm(term.name) : text, then);
  }

  return (
    <span className="absolute inset-0 z-30">
      <input
        autoFocus
        aria-label={column.name}
        aria-autocomplete={terms.length > 0 ? 'list' : undefined}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setMarked(-1);
        }}
        onBlur={() => end('stay')}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter') end('down');
          else if (event.key === 'Tab') {
            event.preventDefault();
            end(event.shiftKey ? 'left' : 'right');
          } else if (event.key === 'Escape') {
            over.current = true;
            onCancel();
          } else if (event.key === 'ArrowDown' && fitting.length > 0) {
            event.preventDefault();
            setMarked((now) => Math.min(fitting.length - 1, now + 1));
          } else if (event.key === 'ArrowUp' && fitting.length > 0) {
            event.preventDefault();
            setMarked((now) => Math.max(-1, now - 1));
          }
        }}
        className="h-full w-full border-2 border-brine-ink bg-sheet px-1.5 text-ink outline-none"
      />
      {fitting.length > 0 && (
        <span
          role="listbox"
          aria-label={`Values of ${column.name}`}
          className="absolute top-full left-0 min-w-full rounded-sm border border-line bg-sheet py-0.5 text-ink shadow-lg"
        >
          {fitting.map(({ term }, index) => (
            <span
              key={term.id}
              role="option"
              aria-selected={index === marked}
              onMouseDown={(event) => {
                event.preventDefault();
                over.current = true;
                onCommit(withTerm(term.name), 'stay');
              }}
              className={`block cursor-pointer px-2 py-1 whitespace-nowrap ${index === marked ? 'bg-brine-wash' : 'hover:bg-fog'}`}
            >
              {term.name}
            </span>
          ))}
        </span>
      )}
    </span>
  );
}
