'use client';

import { useDeferredValue, useState } from 'react';
import type { PackSheet } from '@/core/packs/contract';
import { counted } from '@/core/text/measure';
import type { Conditions } from '@/core/views/conditions';
import { useHand } from '../hand/HandProvider';
import { Button } from '../kit/button';
import { Stamp } from '../kit/stamp';
import { Tabs } from '../kit/tabs';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { carryPapers } from './DropPapers';
import type { usePackActs } from './usePackActs';

const parts = ['found', 'hand'] as const;
const most = 50;

interface Line {
  readonly id: string;
  readonly title: string;
  readonly stamp: Parameters<typeof Stamp>[0]['word'];
  readonly pageCount: number | null;
  readonly homeName: string;
}

/** Papers that can go into a pack: looked for by words, or those in hand. What is in it already says so. */
export function PaperFinder({
  sheet,
  acts,
  sectionId,
  sectionName,
}: {
  readonly sheet: PackSheet;
  readonly acts: ReturnType<typeof usePackActs>;
  /** The section that takes what is added; null: where the agenda has it, else at the end. */
  readonly sectionId: string | null;
  readonly sectionName: string;
}) {
  const { library } = useSurroundings();
  const { held } = useHand();
  const [part, setPart] = useState<(typeof parts)[number]>('found');
  const [words, setWords] = useState('');
  const [where, setWhere] = useState(sheet.place.id);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const asked = useDeferredValue(words.trim());
  const conditions: Conditions = asked === '' ? [] : [{ of: 'find', find: asked, among: 'everything' }];
  const { data, error, isPlaceholderData } = useAsk(
    'view.open',
    {
      placeId: where,
      below: true,
      filter: '',
      conditions,
      groupings: [],
      sorts: [],
      counts: [],
      measures: [],
      start: 0,
      limit: most,
    },
    { keepPrevious: true, untilCounted: true },
  );
  const there = new Set(sheet.entries.flatMap(({ paper }) => paper?.documentId ?? []));
  const lines: readonly Line[] = part === 'hand' ? [...held.values()] : (data?.rows ?? []);
  const chosen = [...ticked].filter((id) => !there.has(id));
  const tick = (id: string) => {
    const next = new Set(ticked);
    if (!next.delete(id)) next.add(id);
    setTicked(next);
  };
  return (
    <section aria-label="Papers to add" className="flex min-h-0 flex-col">
      <Tabs
        label="Where papers are taken from"
        parts={parts}
        words={{ found: 'Find papers', hand: `In hand (${held.size})` }}
        shown={part}
        onShow={setPart}
      />
      {part === 'found' && (
        <div className="mb-2 flex flex-wrap gap-2">
          <input
            aria-label="Words in the papers to add"
            placeholder="Any word in the title, the text or the values"
            value={words}
            maxLength={200}
            onChange={({ target }) => setWords(target.value)}
            className="h-[34px] min-w-0 flex-1 basis-52 rounded-sm border border-edge bg-sheet px-2.5 placeholder:text-soft"
          />
          <select
            aria-label="Where to look"
            value={where}
            onChange={({ target }) => setWhere(target.value)}
            className="h-[34px] max-w-full rounded-sm border border-edge bg-sheet px-2"
          >
            <option value={sheet.place.id}>In {sheet.place.name}</option>
            <option value={library.rootId}>Everywhere</option>
          </select>
        </div>
      )}
      {error && part === 'found' && <p role="alert">{saysOf(error)}</p>}
      <ul
        aria-busy={isPlaceholderData || undefined}
        className="min-h-[120px] flex-1 overflow-y-auto rounded-sm border border-line bg-sheet"
      >
        {lines.map(({ id, title, stamp, pageCount, homeName }) => {
          const isThere = there.has(id);
          return (
            <li
              key={id}
              draggable={!isThere}
              // One that is ticked takes along the others that are.
              onDragStart={(event) => carryPapers(event, ticked.has(id) ? chosen.slice(0, 200) : [id])}
              className="flex items-center gap-2 border-b border-line px-2.5 py-1 last:border-b-0"
            >
              <label className="flex min-w-0 flex-1 items-center gap-2">
                <input
                  type="checkbox"
                  checked={isThere || ticked.has(id)}
                  disabled={isThere}
                  onChange={() => tick(id)}
                  className="size-[15px] shrink-0 accent-brine"
                />
                <Stamp word={stamp} />
                <span className="min-w-0 flex-1">
                  <span className="block truncate">{title}</span>
                  <span className="block truncate text-sm text-soft">
                    {homeName}
                    {pageCount !== null && ` · ${counted(pageCount, 'page')}`}
                    {isThere && ' · in the pack'}
                  </span>
                </span>
              </label>
              {!isThere && (
                <Button
                  look="quiet"
                  aria-label={`Add “${title}”`}
                  disabled={acts.isAdding}
                  onClick={() => acts.add([id], sectionId)}
                >
                  Add
                </Button>
              )}
            </li>
          );
        })}
        {lines.length === 0 && (
          <li className="px-4 py-4 text-soft">
            {part === 'hand'
              ? 'Nothing in hand. Tick papers anywhere to collect them, and add them here together.'
              : asked === ''
                ? 'There are no papers here.'
                : `Nothing found for “${asked}”.`}
          </li>
        )}
      </ul>
      {part === 'found' && data && data.lines > data.rows.length && (
        <p className="mt-1 text-sm text-soft">
          {data.rows.length} of {data.lines.toLocaleString('en-GB')}: more words find fewer.
        </p>
      )}
      <div className="mt-2 flex items-center gap-2">
        <Button
          disabled={chosen.length === 0 || acts.isAdding}
          onClick={() => acts.add(chosen, sectionId, () => setTicked(new Set()))}
        >
          {chosen.length === 0 ? 'Add those ticked' : `Add ${counted(chosen.length, 'paper')}`}
        </Button>
        <span className="min-w-0 flex-1 truncate text-sm text-soft">{sectionName}</span>
      </div>
    </section>
  );
}
