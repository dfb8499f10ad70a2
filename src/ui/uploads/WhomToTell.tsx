'use client';

import { Pick, type PickItem } from '../kit/pick';
import { useChoices } from '../server/useChoices';

/** Colleagues who get one message once all files are filed. */
export function WhomToTell({
  told,
  onTold,
  help = 'Optional. One message goes out when all are filed, to each about what is open to them.',
}: {
  readonly told: readonly PickItem[];
  readonly onTold: (told: readonly PickItem[]) => void;
  readonly help?: string;
}) {
  const { found, asking } = useChoices('person');
  const picked = told.map((person) => person.id);
  const turn = (id: string) => {
    const person = found.find((each) => each.id === id);
    if (picked.includes(id)) onTold(told.filter((each) => each.id !== id));
    else if (person) onTold([...told, person]);
  };
  return (
    <div className="mb-3.5">
      <p className="mb-1 text-sm font-semibold">Whom to tell</p>
      <Pick
        label="Whom to tell"
        shown={
          told.length === 0 ? <span className="text-soft">Nobody</span> : told.map((person) => person.name).join(', ')
        }
        {...asking}
        picked={picked}
        several
        onPick={turn}
        onClear={told.length > 0 ? () => onTold([]) : undefined}
        className="h-[34px] w-full rounded-sm border border-edge bg-sheet px-2.5 text-left"
      />
      <p className="mt-1 text-sm text-soft">{help}</p>
    </div>
  );
}
