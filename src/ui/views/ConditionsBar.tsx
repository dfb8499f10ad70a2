'use client';

import { useMemo } from 'react';
import type { Column } from '@/core/columns/model';
import type { Label } from '@/core/labels/model';
import { toggled, type AskedFor, type Condition, type Conditions } from '@/core/views/conditions';
import { counted } from '@/core/text/measure';
import { Pick, type PickItem } from '../kit/pick';
import { useAsk } from '../server/useCall';

interface Props {
  readonly placeId: string;
  readonly filter: string;
  readonly columns: readonly Column[];
  readonly labels: ReadonlyMap<string, Label>;
  readonly conditions: Conditions;
  readonly onConditions: (next: Conditions) => void;
}

/** Which papers are shown: each condition a two-part chip that opens on its values with counts. */
export function ConditionsBar(props: Props) {
  const { columns, labels, conditions, onConditions } = props;
  const free: PickItem[] = [
    ...columns.filter((column) => column.type !== 'longText' && !conditions.some((each) => each.of === column.id)),
    ...(labels.size > 0 && !conditions.some((each) => each.of === 'label') ? [{ id: 'label', name: 'Label' }] : []),
  ].map(({ id, name }) => ({ id, name }));
  return (
    <>
      {conditions.map((condition) => (
        <Chip key={condition.of} {...props} condition={condition} />
      ))}
      {free.length > 0 && (
        <Pick
          label="Add a condition"
          shown="+ Condition"
          items={free}
          picked={[]}
          onPick={(id) => onConditions([...conditions, { of: id as Condition['of'], anyOf: [] }])}
          className="h-[28px] shrink-0 rounded-sm border border-dashed border-edge px-2 text-soft hover:text-ink"
        />
      )}
    </>
  );
}

const keyOf = (value: AskedFor): string => JSON.stringify(value);

function Chip({
  placeId,
  filter,
  columns,
  labels,
  conditions,
  onConditions,
  condition,
}: Props & { readonly condition: Condition }) {
  const column = columns.find((each) => each.id === condition.of);
  const { data } = useAsk(
    'ledger.counts',
    {
      placeId,
      columnId: condition.of === 'label' ? '' : condition.of,
      filter,
      conditions: conditions.map((each) => ({ ...each, anyOf: [...each.anyOf] })),
    },
    { enabled: column !== undefined, keepPrevious: true },
  );
  const items = useMemo<PickItem[]>(
    () =>
      condition.of === 'label'
        ? [...labels.values()].map((label) => ({ id: keyOf(label.id), name: label.name, about: String(label.papers) }))
        : (data ?? []).map((each) => ({
            id: keyOf(each.value),
            name: each.name,
            about: each.papers.toLocaleString('en-GB'),
          })),
    [condition.of, labels, data],
  );
  const name = condition.of === 'label' ? 'Label' : (column?.name ?? 'A column that is not here');
  const words = condition.anyOf.map((value) => items.find((item) => item.id === keyOf(value))?.name ?? '…');
  const gone = () => onConditions(conditions.filter((each) => each.of !== condition.of));
  return (
    <span className="flex h-[28px] max-w-full shrink-0 items-stretch rounded-sm border border-brine-ink">
      <span className="flex items-center bg-brine-wash px-2 text-sm text-brine-ink">{name}</span>
      <Pick
        label={`${name}: choose values`}
        shown={
          words.length === 0 ? (
            <span className="text-soft">any</span>
          ) : words.length > 2 ? (
            counted(words.length, 'value')
          ) : (
            words.join(' or ')
          )
        }
        items={items}
        picked={condition.anyOf.map(keyOf)}
        several
        onPick={(id) => onConditions(toggled(conditions, condition.of, JSON.parse(id) as AskedFor))}
        nothing="No values here."
        className="max-w-64 truncate px-2 text-sm"
      />
      <button
        type="button"
        aria-label={`Take away the condition on ${name}`}
        onClick={gone}
        className="border-l border-brine-ink px-2 text-soft hover:text-ink"
      >
        ×
      </button>
    </span>
  );
}
