'use client';

import type { AgendaSheet } from '@/core/agenda/contract';
import { Pick } from '../kit/pick';
import { useChoices } from '../server/useChoices';

/** Somebody: with an account, or by name alone. */
export interface Who {
  readonly personId: string | null;
  readonly who: string;
}

/** Says who: one of those who attend a meeting, another colleague, or a name without an account. */
export function WhoField({
  label,
  attendees,
  who,
  onWho,
  wrong,
}: {
  readonly label: string;
  readonly attendees: AgendaSheet['attendees'];
  readonly who: Who;
  readonly onWho: (who: Who) => void;
  readonly wrong: string | undefined;
}) {
  const { words, found, asking } = useChoices('person', (typed) => typed !== '');
  // Before anything is typed, those who attend.
  const items = words === '' ? attendees.map(({ id, personId, name }) => ({ id: personId ?? id, name })) : found;
  return (
    <div className="mb-3.5">
      <span className="mb-1 block text-sm font-semibold">{label}</span>
      <Pick
        label={label}
        shown={who.who === '' ? <span className="text-soft">Nobody yet</span> : who.who}
        {...asking}
        items={items}
        picked={who.personId === null ? [] : [who.personId]}
        onPick={(id) => {
          const guest = attendees.find((each) => each.id === id && each.personId === null);
          const name = items.find((each) => each.id === id)?.name ?? '';
          onWho(guest ? { personId: null, who: guest.name } : { personId: id, who: name });
        }}
        onClear={() => onWho({ personId: null, who: '' })}
        onCreate={(name) => onWho({ personId: null, who: name })}
        className="flex min-h-[34px] w-full items-center rounded-sm border border-edge bg-sheet px-2.5 text-left"
      />
      {wrong !== undefined && (
        <p role="alert" className="mt-1 text-sm text-ember-ink">
          {wrong}
        </p>
      )}
    </div>
  );
}
