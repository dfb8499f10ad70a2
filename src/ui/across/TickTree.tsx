'use client';

import { useEffect, useRef, useState } from 'react';
import { chosenOf, type Mark } from '@/core/across/marks';
import type { PlaceRow } from '@/core/places/model';
import { useAsk } from '../server/useCall';

interface Props {
  readonly places: readonly PlaceRow[];
  /** The way down to where these places lie. */
  readonly lineage: readonly string[];
  readonly marks: readonly Mark[];
  readonly onTick: (lineage: readonly string[]) => void;
}

/** Places and papers with boxes to tick, each place loaded with what is in it once it is opened. */
export function TickTree(props: Props) {
  return (
    <ul className={props.lineage.length > 1 ? 'ml-[22px]' : ''}>
      {props.places.map((place) => (
        <Branch key={place.id} place={place} {...props} />
      ))}
    </ul>
  );
}

function Branch({ place, lineage, marks, onTick }: Props & { readonly place: PlaceRow }) {
  const [open, setOpen] = useState(false);
  const way = [...lineage, place.id];
  const { data } = useAsk('place.children', { placeId: place.id }, { enabled: open });
  const chosen = chosenOf(marks, way);
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (box.current) box.current.indeterminate = chosen === 'part';
  }, [chosen]);
  const name = [place.reference, place.name].filter(Boolean).join(' ');
  return (
    <li>
      <div className="flex min-h-[30px] items-center gap-2">
        <button
          type="button"
          aria-expanded={open}
          aria-label={`${open ? 'Close' : 'Open'} ${name}`}
          onClick={() => setOpen(!open)}
          className="w-[18px] text-soft hover:text-ink"
        >
          {open ? '▾' : '▸'}
        </button>
        <label className="flex min-w-0 items-center gap-2">
          <input
            ref={box}
            type="checkbox"
            checked={chosen === 'all'}
            onChange={() => onTick(way)}
            className="size-[15px] accent-brine"
          />
          <span className="min-w-0 truncate">
            {place.reference && <span className="font-mono text-sm text-soft">{place.reference} </span>}
            <span className={place.kind === 'series' ? 'font-condensed' : ''}>{place.name}</span>
          </span>
        </label>
        <span className="figures ml-auto shrink-0 text-sm text-soft">
          {place.closed && 'closed · '}
          {place.paperCount.toLocaleString('en-GB')}
        </span>
      </div>
      {open && <PapersOf placeId={place.id} way={way} marks={marks} onTick={onTick} alone={data?.length === 0} />}
      {open && data && data.length > 0 && <TickTree places={data} lineage={way} marks={marks} onTick={onTick} />}
    </li>
  );
}

/** So many papers of a place are listed; more are chosen with the place, or by what narrows them. */
const mostListed = 200;

/** The papers that lie in a place itself. */
function PapersOf({
  placeId,
  way,
  marks,
  onTick,
  alone,
}: {
  readonly placeId: string;
  readonly way: readonly string[];
  /** Whether there are no places beside them. */
  readonly alone: boolean;
} & Pick<Props, 'marks' | 'onTick'>) {
  const { data } = useAsk('view.open', {
    placeId,
    below: false,
    filter: '',
    conditions: [],
    groupings: [],
    sorts: [{ of: 'title', direction: 'up' }],
    counts: [],
    measures: [],
    start: 0,
    limit: mostListed,
  });
  const papers = data?.rows.filter(({ homeId }) => homeId === placeId) ?? [];
  if (papers.length === 0)
    return alone && data ? <p className="ml-[44px] text-sm text-soft">Nothing lies in it.</p> : null;
  const more = (data?.lines ?? 0) - (data?.rows.length ?? 0);
  return (
    <ul className="ml-[44px]">
      {papers.map(({ id, title }) => (
        <li key={id} className="flex min-h-[28px] items-center">
          <label className="flex min-w-0 items-center gap-2">
            <input
              type="checkbox"
              checked={chosenOf(marks, [...way, id]) === 'all'}
              onChange={() => onTick([...way, id])}
              className="size-[15px] accent-brine"
            />
            <span className="min-w-0 truncate">{title}</span>
          </label>
        </li>
      ))}
      {more > 0 && (
        <li className="text-sm text-soft">
          {more.toLocaleString('en-GB')} more papers, which go with the tick of the place
        </li>
      )}
    </ul>
  );
}
