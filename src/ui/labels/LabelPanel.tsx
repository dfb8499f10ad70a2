'use client';

import { useDraggable, useDroppable } from '@dnd-kit/core';
import { useState } from 'react';
import { labelState, tickAfter, type Label, type LabelState } from '@/core/labels/model';
import { hues } from '@/core/text/hue';
import { counted } from '@/core/text/measure';
import { searchKey } from '@/core/text/fold';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Menu } from '../kit/menu';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { LabelDialog } from './LabelDialog';
import { useLabelActs } from './useLabelActs';

interface Props {
  /** The papers it acts on: what is in hand, or the one that is chosen. */
  readonly papers: readonly { readonly id: string }[];
  readonly onClose: () => void;
}

/** The label panel: stays open while the selection changes; one field both finds and makes. */
export function LabelPanel({ papers, onClose }: Props) {
  const { me } = useSurroundings();
  const { data: labels } = useAsk('labels.all', {});
  const ids = papers.map((paper) => paper.id).slice(0, 5000);
  const { data: on } = useAsk('labels.on', { documentIds: ids }, { enabled: ids.length > 0, keepPrevious: true });
  const { put } = useLabelActs();
  const create = useAct('label.create');
  const [words, setWords] = useState('');
  const [editing, setEditing] = useState<Label | null>(null);
  const key = searchKey(words);
  const found = labels?.filter((label) => searchKey(label.name).includes(key)) ?? [];
  const exact = found.some((label) => searchKey(label.name) === key);

  const stateOf = (label: Label): LabelState =>
    ids.length === 0 || !on ? 'none' : labelState(on.bearing[label.id] ?? 0, on.papers);

  function make(shared: boolean) {
    const hue = hues[(labels?.length ?? 0) % hues.length] ?? 'slate';
    create.mutate(
      { name: words, hue, shared },
      {
        onSuccess: ({ id }) => {
          if (ids.length > 0) void put({ id, name: words.trim() }, papers, true);
          setWords('');
        },
      },
    );
  }
  const onEnter = () => {
    const [first] = found;
    if (first && (exact || key !== '')) void put(first, papers, tickAfter(stateOf(first)));
    else if (key !== '') make(me.keeper);
  };

  return (
    <section
      aria-label="Labels"
      className="no-print fixed right-[330px] bottom-[54px] z-30 flex max-h-[60vh] w-[300px] max-w-[94vw] flex-col rounded-sm border border-line bg-sheet shadow-lg max-[899px]:right-2"
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
    >
      <div className="flex items-baseline gap-2 border-b border-line px-3 py-2">
        <h2 className="font-condensed">Labels</h2>
        <span className="text-sm text-soft">
          {ids.length === 0 ? 'no paper chosen' : `on ${counted(ids.length, 'paper')}`}
        </span>
        <Button look="quiet" className="ml-auto !h-[24px] !px-1" onClick={onClose}>
          Close
        </Button>
      </div>
      <input
        autoFocus
        aria-label="Find or make a label"
        placeholder="Find or make a label"
        value={words}
        maxLength={200}
        onChange={(event) => setWords(event.target.value)}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter') onEnter();
          if (event.key === 'Escape') onClose();
        }}
        className="mx-3 mt-2 h-[30px] rounded-sm border border-edge bg-sheet px-2"
      />
      <ul className="min-h-0 flex-1 overflow-y-auto p-2">
        {found.map((label) => (
          <LabelLine
            key={label.id}
            label={label}
            state={stateOf(label)}
            enabled={ids.length > 0 && (!label.shared || (on?.mayAmend ?? false))}
            onTick={() => void put(label, papers, tickAfter(stateOf(label)))}
            onEdit={!label.shared || me.keeper ? () => setEditing(label) : null}
          />
        ))}
        {labels?.length === 0 && key === '' && (
          <li className="px-1 py-2 text-sm text-soft">No labels yet. Type a name to make the first.</li>
        )}
        {key !== '' && !exact && (
          <li className="flex flex-wrap gap-2 px-1 pt-1">
            {me.keeper && <Button onClick={() => make(true)}>Make “{words.trim()}” for all</Button>}
            <Button onClick={() => make(false)}>Make it for me alone</Button>
          </li>
        )}
      </ul>
      {editing && <LabelDialog label={editing} labels={labels ?? []} onClose={() => setEditing(null)} />}
    </section>
  );
}

function LabelLine({
  label,
  state,
  enabled,
  onTick,
  onEdit,
}: {
  readonly label: Label;
  readonly state: LabelState;
  readonly enabled: boolean;
  readonly onTick: () => void;
  readonly onEdit: (() => void) | null;
}) {
  const { setNodeRef: setDragRef, listeners } = useDraggable({
    id: `label-${label.id}`,
    data: { kind: 'label', label },
  });
  const { setNodeRef: setDropRef, isOver } = useDroppable({
    id: `label-drop-${label.id}`,
    data: { kind: 'label', label },
  });
  return (
    <li
      ref={setDropRef}
      data-hue={label.hue}
      className={`flex h-[30px] items-center gap-2 rounded-sm px-1 ${isOver ? 'bg-straw' : 'hover:bg-fog'}`}
    >
      <input
        type="checkbox"
        aria-label={label.name}
        aria-checked={state === 'some' ? 'mixed' : state === 'all'}
        disabled={!enabled}
        checked={state === 'all'}
        ref={(box) => {
          if (box) box.indeterminate = state === 'some';
        }}
        onChange={onTick}
        className="size-[15px] accent-brine"
      />
      <span
        ref={setDragRef}
        {...listeners}
        className="min-w-0 flex-1 cursor-grab truncate border-l-[3px] pl-2 [border-left-color:var(--hue)]"
      >
        {label.name}
        {!label.shared && <span className="ml-1 text-sm text-soft">mine</span>}
      </span>
      <Link
        href={`/label/${label.id}`}
        className="figures inline-flex h-[24px] min-w-[24px] items-center justify-end text-sm text-soft hover:underline"
        aria-label={`${counted(label.papers, 'paper')} with ${label.name}`}
      >
        {label.papers}
      </Link>
      {onEdit && (
        <Menu
          look="quiet"
          label=""
          name={`Change ${label.name}`}
          acts={[{ label: 'Rename, merge or delete…', act: onEdit }]}
        />
      )}
    </li>
  );
}
