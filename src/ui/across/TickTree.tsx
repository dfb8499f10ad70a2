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

/** Places with boxes to tick, each loaded with what is in it once it is opened. */
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
      {open && data && data.length > 0 && <TickTree places={data} lineage={way} marks={marks} onTick={onTick} />}
      {open && data?.length === 0 && <p className="ml-[44px] text-sm text-soft">No folders in it.</p>}
    </li>
  );
}
