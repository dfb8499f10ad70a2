'use client';

import { Command } from 'cmdk';
import { useDeferredValue, useState, type KeyboardEvent } from 'react';
import { grouped } from '@/core/collections/grouped';
import type { PlaceChoice } from '@/core/places/contract';
import { Button } from '../kit/button';
import { useWaitingEnter } from '../kit/useWaitingEnter';
import { useAsk } from '../server/useCall';
import { NewFolderHere } from './NewFolderHere';

/** What stands above places that are offered before any word is typed. */
const nearWords = { bookmarked: 'Bookmarked', lately: 'Used lately' } as const;

/**
 * Finds a place by words anywhere on its path, among what is bookmarked and was used lately, or by going down from place to
 * place; a folder can be made in the one that is marked.
 */
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
  const [way, setWay] = useState<readonly PlaceChoice[]>([]);
  const [making, setMaking] = useState(false);
  const within = way.at(-1);
  const asked = useDeferredValue(words);
  const { data, isPending, isPlaceholderData } = useAsk(
    'places.choose',
    { words: asked, capability, withinId: within?.id ?? null },
    { keepPrevious: true },
  );
  const [marked, setMarked] = useState('');
  const offered = within && words.trim() === '' ? [within, ...otherThan(within, data)] : (data ?? []);
  // The marked line may be missing from the next answer; Enter has to act on a visible line.
  const inSight = offered.find((place) => place.id === marked) ?? offered[0];
  const isAnswered = data !== undefined && words === asked && !isPlaceholderData;
  const whenWaiting = useWaitingEnter(isAnswered, () => {
    if (inSight) onChoose(inSight);
  });
  const goTo = (next: readonly PlaceChoice[]) => {
    setWay(next);
    setWords('');
    setMarked('');
  };
  const goInto = (place: PlaceChoice) => goTo([...way, { ...place, near: null }]);
  function onKeyDown(event: KeyboardEvent<HTMLInputElement>) {
    const { selectionStart, selectionEnd, value } = event.currentTarget;
    const isInto = event.key === 'ArrowRight' && selectionStart === value.length && inSight?.opens === true;
    const isBack = event.key === 'ArrowLeft' && selectionEnd === 0 && within !== undefined;
    if (isInto && isAnswered && inSight.id !== within?.id) goInto(inSight);
    else if (isBack) goTo(way.slice(0, -1));
    else return whenWaiting(event);
    event.preventDefault();
  }
  const headed = words.trim() === '' && offered.some(({ near }) => near !== null);
  return (
    <div className="rounded-sm border border-edge">
      <Command shouldFilter={false} label={label} value={inSight?.id ?? ''} onValueChange={setMarked}>
        <Command.Input
          autoFocus
          value={words}
          onValueChange={setWords}
          onKeyDown={onKeyDown}
          placeholder="Words of the place or of the way to it: finance 26 sep"
          className="h-[36px] w-full rounded-t-sm border-b border-line bg-sheet px-3 text-base placeholder:text-soft"
        />
        {within && (
          <p className="flex items-center gap-2 border-b border-line bg-fog px-2 py-1 text-sm">
            <Button look="quiet" className="!px-1" onClick={() => goTo(way.slice(0, -1))}>
              Back
            </Button>
            <span className="truncate">In {within.path.join(' / ')}</span>
          </p>
        )}
        <Command.List className="h-[232px] overflow-y-auto p-1">
          {!isPending && <Command.Empty className="px-2 py-3 text-sm text-soft">No place found.</Command.Empty>}
          {[...grouped(offered, ({ near }) => near)].map(([near, places]) => (
            <Command.Group
              key={near}
              heading={headed ? (near ? nearWords[near] : 'Series and dossiers') : undefined}
              className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-0.5 [&_[cmdk-group-heading]]:font-condensed [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-soft"
            >
              {places.map((place) => (
                <PlaceItem
                  key={place.id}
                  place={place}
                  itself={place.id === within?.id}
                  onChoose={onChoose}
                  onInto={goInto}
                />
              ))}
            </Command.Group>
          ))}
        </Command.List>
      </Command>
      {inSight && (
        <NewFolderHere
          key={making ? 'making' : inSight.id}
          place={inSight}
          making={making}
          onMaking={setMaking}
          onMade={onChoose}
        />
      )}
    </div>
  );
}

/** Places without one: while the answer is awaited, the one gone into is still among those of before. */
function otherThan(place: PlaceChoice, places: readonly PlaceChoice[] = []): readonly PlaceChoice[] {
  return places.filter(({ id }) => id !== place.id);
}

function PlaceItem({
  place,
  itself,
  onChoose,
  onInto,
}: {
  readonly place: PlaceChoice;
  /** Whether it is the place that one has gone into. */
  readonly itself: boolean;
  readonly onChoose: (place: PlaceChoice) => void;
  readonly onInto: (place: PlaceChoice) => void;
}) {
  return (
    <Command.Item
      value={place.id}
      onSelect={() => onChoose(place)}
      className="flex cursor-pointer items-center gap-2 rounded-sm px-2 py-1.5 data-[selected=true]:bg-brine-wash"
    >
      <span className="min-w-0 flex-1">
        {itself ? <strong>Here: {place.name}</strong> : <PlaceWay place={place} />}
      </span>
      {place.opens && !itself && (
        // By keyboard it is the right arrow: a button in a line that is chosen itself cannot be reached.
        <span
          aria-hidden
          title={`Places in ${place.name} (→)`}
          className="shrink-0 rounded-sm px-2 text-brine-ink hover:bg-mist"
          onClick={(event) => {
            event.stopPropagation();
            onInto(place);
          }}
        >
          ▸
        </span>
      )}
    </Command.Item>
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
