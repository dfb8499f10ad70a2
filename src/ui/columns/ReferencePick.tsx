'use client';

import { Pick } from '../kit/pick';
import { useChoices } from '../server/useChoices';

interface Named {
  readonly id: string;
  readonly name: string;
}

/** Picks a person, a dossier or a paper by typing a part of the name. */
export function ReferencePick({
  kind,
  label,
  value,
  instead,
  onPick,
}: {
  readonly kind: 'person' | 'dossier' | 'document';
  readonly label: string;
  readonly value: Named | null;
  /** Shown where nothing is picked. */
  readonly instead: string;
  readonly onPick: (picked: Named | null) => void;
}) {
  const { found, asking } = useChoices(kind);
  return (
    <div className="mb-3.5">
      <span className="mb-1 block text-sm font-semibold">{label}</span>
      <Pick
        label={label}
        shown={value ? value.name : <span className="text-soft">{instead}</span>}
        {...asking}
        picked={value ? [value.id] : []}
        onPick={(id) => onPick(found.find((item) => item.id === id) ?? null)}
        onClear={value ? () => onPick(null) : undefined}
        className="min-h-[34px] w-full rounded-sm border border-edge bg-sheet px-2.5 text-left"
      />
    </div>
  );
}
