'use client';

import { Command } from 'cmdk';
import { useDeferredValue, useState } from 'react';
import type { PlaceChoice } from '@/core/places/contract';
import { useWaitingEnter } from '../kit/useWaitingEnter';
import { useAsk } from '../server/useCall';

/** Finds a place by words anywhere on its path. */
export function PlaceChooser({
  label,
  capability,
  onChoose,
}: {
  readonly label: string;
  readonly capability: 'add' | 'manage';
  readonly onChoose: (place: PlaceChoice) => void;
}) {
  const [words, setWords] = useState('');
  const asked = useDeferredValue(words);
  const { data, isPending, isPlaceholderData } = useAsk(
    'places.choose',
    { words: asked, capability },
    { keepPrevious: true },
  );
  const [marked, setMarked] = useState('');
  // The marked line may be missing from the next answer; Enter has to act on a visible line.
  const inSight = data?.find((place) => place.id === marked) ?? data?.[0];
  const onKeyDown = useWaitingEnter(data !== undefined && words === asked && !isPlaceholderData, () => {
    if (inSight) onChoose(inSight);
  });
  return (
    <Command
      shouldFilter={false}
      label={label}
      value={inSight?.id ?? ''}
      onValueChange={setMarked}
      className="rounded-sm border border-edge"
    >
      <Command.Input
        autoFocus
        value={words}
        onValueChange={setWords}
        onKeyDown={onKeyDown}
        placeholder="Words of the place or of the way to it: finance 26 sep"
        className="h-[36px] w-full rounded-t-sm border-b border-line bg-sheet px-3 text-base placeholder:text-soft"
      />
      <Command.List className="h-[232px] overflow-y-auto p-1">
        {!isPending && <Command.Empty className="px-2 py-3 text-sm text-soft">No place found.</Command.Empty>}
        {data?.map((place) => (
          <Command.Item
            key={place.id}
            value={place.id}
            onSelect={() => onChoose(place)}
            className="cursor-pointer rounded-sm px-2 py-1.5 data-[selected=true]:bg-brine-wash"
          >
            <PlaceWay place={place} />
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  );
}

/** A place with its path. */
export function PlaceWay({ place }: { readonly place: PlaceChoice }) {
  const way = place.path.slice(0, -1);
  return (
    <span className="block truncate">
      {way.length > 0 && <span className="text-soft">{way.join(' / ')} / </span>}
      {place.reference && <span className="font-mono text-sm text-soft">{place.reference} </span>}
      <span className="font-medium">{place.name}</span>
    </span>
  );
}
