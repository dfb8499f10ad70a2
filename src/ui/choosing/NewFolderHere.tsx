import { useState } from 'react';
import type { PlaceChoice } from '@/core/places/contract';
import { Button } from '../kit/button';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** Makes a folder in a place that is being chosen, and chooses it. */
export function NewFolderHere({
  place,
  making,
  onMaking,
  onMade,
}: {
  readonly place: PlaceChoice;
  readonly making: boolean;
  readonly onMaking: (making: boolean) => void;
  readonly onMade: (place: PlaceChoice) => void;
}) {
  // The place at the time: words typed meanwhile may mark another.
  const [parent] = useState(place);
  const [name, setName] = useState('');
  const create = useAct('folder.create', { quiet: true });
  if (!making)
    return (
      <p className="border-t border-line px-2 py-1">
        <Button look="quiet" onClick={() => onMaking(true)}>
          New folder in {place.name}…
        </Button>
      </p>
    );
  const make = () =>
    create.mutate(
      { parentId: parent.id, name },
      {
        onSuccess: ({ id, name: made }) =>
          onMade({
            ...parent,
            id,
            name: made,
            kind: 'folder',
            reference: null,
            path: [...parent.path, made],
            near: null,
            opens: false,
          }),
      },
    );
  return (
    <form
      className="border-t border-line px-2 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        // A dialog around it is not to be sent with it.
        event.stopPropagation();
        make();
      }}
    >
      <div className="flex items-center gap-2">
        <input
          autoFocus
          aria-label={`Name of the new folder in ${parent.name}`}
          placeholder={`New folder in ${parent.name}`}
          value={name}
          maxLength={200}
          onChange={(event) => setName(event.target.value)}
          className="h-[32px] min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-2"
        />
        <Button type="submit" disabled={name.trim() === '' || create.isPending}>
          Make it
        </Button>
        <Button look="quiet" onClick={() => onMaking(false)}>
          Cancel
        </Button>
      </div>
      {create.error && (
        <p role="alert" className="mt-1 text-sm text-ember-ink">
          {saysOf(create.error)}
        </p>
      )}
    </form>
  );
}
