'use client';

import type { NamedSuggestion } from '@/core/intake/contract';
import { Pick, type PickItem } from '../kit/pick';
import { useLabels, labelsAmong } from '../labels/useLabels';
import { WhomToTell } from '../uploads/WhomToTell';

/** Which labels papers get that are filed, and who is told of them. @param proposed why some of them are proposed */
export function Alongside({
  labelIds,
  onLabels,
  told,
  onTold,
  sharedOnly = false,
  proposed = [],
}: {
  readonly labelIds: readonly string[];
  readonly onLabels: (labelIds: readonly string[]) => void;
  readonly told: readonly PickItem[];
  readonly onTold: (told: readonly PickItem[]) => void;
  /** Only labels that everybody sees. */
  readonly sharedOnly?: boolean;
  readonly proposed?: readonly NamedSuggestion[];
}) {
  const labels = useLabels();
  const items = [...labels.values()].filter(({ shared }) => shared || !sharedOnly);
  const chosen = labelsAmong(labels, labelIds);
  const reasons = proposed.filter(({ id }) => labelIds.includes(id) || told.some((each) => each.id === id));
  return (
    <>
      <div className="mb-3.5">
        <p className="mb-1 text-sm font-semibold">Labels</p>
        <Pick
          label="Labels for it"
          shown={
            chosen.length === 0 ? <span className="text-soft">None</span> : chosen.map(({ name }) => name).join(', ')
          }
          items={items.map(({ id, name }) => ({ id, name }))}
          picked={labelIds}
          several
          onPick={(id) => onLabels(labelIds.includes(id) ? labelIds.filter((each) => each !== id) : [...labelIds, id])}
          onClear={labelIds.length > 0 ? () => onLabels([]) : undefined}
          nothing="There is no such label."
          className="min-h-[34px] w-full rounded-sm border border-edge bg-sheet px-2.5 text-left"
        />
      </div>
      <WhomToTell told={told} onTold={onTold} help="Each gets one message, about what is open to them." />
      {reasons.map(({ id, name, why }) => (
        <p key={id} className="text-sm text-soft">
          {name}: {why}
        </p>
      ))}
    </>
  );
}
