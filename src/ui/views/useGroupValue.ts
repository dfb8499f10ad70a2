'use client';

import type { Column, Value } from '@/core/columns/model';
import { counted } from '@/core/text/measure';
import type { HeadingLine } from '@/core/views/display';
import type { Grouping } from '@/core/views/spec';
import { say } from '../kit/notice';
import { useLabelActs } from '../labels/useLabelActs';
import { useLabels } from '../labels/useLabels';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** Gives papers that are dropped on a group its value, and with it those of the groups it stands in. */
export function useGroupValue(columns: readonly Column[]) {
  const setValues = useAct('papers.setValues');
  const undo = useAct('values.undo');
  const labels = useLabels();
  const { put } = useLabelActs();
  return (
    heading: HeadingLine,
    groupings: readonly Grouping[],
    papers: readonly { readonly id: string; readonly title: string }[],
  ): void => {
    const values: Record<string, string | number | boolean | string[] | null> = {};
    const said: string[] = [];
    for (const [depth, group] of heading.trail.entries()) {
      const grouping = groupings[depth];
      const column = columns.find((each) => each.id === grouping?.of);
      const label = grouping?.of === 'label' ? labels.get(String(group.key)) : undefined;
      if (label) void put(label, [...papers], true);
      else if (column && column.type !== 'date' && (group.kind === 'value' || group.kind === 'none')) {
        const value = asValue(column, group.key);
        values[column.id] = Array.isArray(value) ? [...(value as string[])] : (value as string | null);
        said.push(`${column.name}: ${group.name}`);
      }
    }
    if (said.length === 0) {
      if (groupings[heading.depth]?.of !== 'label')
        say.refusal('These groups are made by the library itself; papers cannot be put into them.');
      return;
    }
    setValues.mutate(
      { documentIds: papers.map((paper) => paper.id), values },
      {
        onSuccess: ({ entryId, changed }) => {
          if (entryId === null) say.done('They stand there already, or their place fixes the value.');
          else
            say.undoable(`${counted(changed, 'paper')} now ${said.join(', ')}.`, () =>
              undo.mutate({ entryId }, { onError: (error) => say.refusal(saysOf(error)) }),
            );
        },
      },
    );
  };
}

const asValue = (column: Column, key: string | number | boolean | null): Value | null =>
  key === null ? null : column.type === 'choices' ? [String(key)] : key;
