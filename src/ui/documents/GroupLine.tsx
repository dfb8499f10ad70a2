'use client';

import { useDroppable } from '@dnd-kit/core';
import { CaretDownIcon, CaretRightIcon } from '@phosphor-icons/react';
import { counted, sizeInWords } from '@/core/text/measure';
import type { HeadingLine } from '@/core/views/display';
import type { LedgerProps } from './ledgerProps';

/** The heading of a group: name, totals, folding. Papers dropped on it take its value. */
export function GroupLine({
  heading,
  words,
  onFold,
  onPickUp,
  onTakeValue,
}: {
  readonly heading: HeadingLine;
  readonly words: { readonly short: string; readonly long: string };
  readonly onFold: () => void;
  readonly onPickUp: () => void;
  readonly onTakeValue: LedgerProps['onTakeValue'];
}) {
  const { group, depth, open } = heading;
  const { papers, pages, bytes } = group.totals;
  const { setNodeRef, isOver, active } = useDroppable({
    id: `group-${heading.path}`,
    data: { kind: 'taker', take: (dropped: readonly { id: string; title: string }[]) => onTakeValue(heading, dropped) },
    disabled: group.kind === 'rest' || group.kind === 'hidden',
  });
  const over = isOver && active?.data.current?.['kind'] === 'paper';
  const Caret = open ? CaretDownIcon : CaretRightIcon;
  return (
    <span
      role="gridcell"
      ref={setNodeRef}
      style={{ gridColumn: '1 / -1', paddingLeft: 12 + depth * 18 }}
      className={`sticky left-0 flex h-full min-w-0 items-center gap-2 pr-4 ${over ? 'bg-straw text-straw-ink' : ''}`}
    >
      <button
        type="button"
        tabIndex={-1}
        aria-label={`${open ? 'Fold' : 'Unfold'} ${group.name}`}
        onClick={onFold}
        className="flex min-w-0 items-center gap-1.5 font-condensed text-ink"
      >
        <Caret size={12} weight="fill" aria-hidden />
        <span className={`truncate ${group.kind === 'value' ? '' : 'text-soft'}`}>{group.name}</span>
      </button>
      <span className="figures truncate text-sm text-soft" title={words.long}>
        {counted(papers, 'paper')}
        {pages > 0 && ` · ${pages.toLocaleString('en-GB')} p`} · {sizeInWords(bytes)}
        {words.short}
      </span>
      <button
        type="button"
        tabIndex={-1}
        onClick={onPickUp}
        className="ml-auto shrink-0 text-sm text-brine-ink hover:underline"
      >
        {over ? `Drop here: ${group.name}` : 'Pick up'}
      </button>
    </span>
  );
}
