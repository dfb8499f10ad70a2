'use client';

import { useState, type ReactNode } from 'react';
import { placeInWords } from '@/core/places/way';
import { Button } from '../kit/button';
import type { Target } from './MoveTarget';
import { PlaceChooser } from './PlaceChooser';

/** Chooses one place or several: each that is chosen stands above with what `about` says of it. */
export function PlacesChooser({
  label,
  chosen,
  onChange,
  about,
}: {
  readonly label: string;
  readonly chosen: readonly Target[];
  readonly onChange: (places: readonly Target[]) => void;
  readonly about?: (place: Target) => ReactNode;
}) {
  const [adding, setAdding] = useState(false);
  return (
    <>
      {chosen.length > 0 && (
        <ul aria-label="Chosen places" className="mb-2 max-h-[220px] overflow-y-auto">
          {chosen.map((place) => (
            <li key={place.id} className="mb-1 rounded-sm border border-line bg-fog px-3 py-1">
              <div className="flex items-center gap-2">
                <strong className="min-w-0 flex-1 truncate">{place.name}</strong>
                <Button
                  look="quiet"
                  className="!px-1"
                  aria-label={`Leave out ${place.name}`}
                  onClick={() => onChange(chosen.filter(({ id }) => id !== place.id))}
                >
                  Leave out
                </Button>
              </div>
              {about?.(place)}
            </li>
          ))}
        </ul>
      )}
      {chosen.length === 0 || adding ? (
        <PlaceChooser
          key={chosen.length}
          label={label}
          capability="add"
          onChoose={({ id, path }) => {
            setAdding(false);
            if (!chosen.some((place) => place.id === id)) onChange([...chosen, { id, name: placeInWords(path) }]);
          }}
        />
      ) : (
        <Button onClick={() => setAdding(true)}>Another place as well…</Button>
      )}
    </>
  );
}
