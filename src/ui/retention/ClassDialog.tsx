'use client';

import { useState } from 'react';
import type { ClassRow } from '@/core/retention/contract';
import {
  keepingEnds,
  keepingEndWords,
  keepingStarts,
  keepingStartWords,
  type KeepingEnd,
  type KeepingStart,
} from '@/core/retention/model';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, LongField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { useColumns } from '../columns/useColumns';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** Makes a retention class, or changes one; says before of how many papers that decides. */
export function ClassDialog({ row, onClose }: { readonly row: ClassRow | null; readonly onClose: () => void }) {
  const { library } = useSurroundings();
  const put = useAct('retention.putClass', { quiet: true });
  const { columns } = useColumns(library.rootId);
  const [fields, setFields] = useState({
    name: row?.name ?? '',
    authority: row?.authority ?? '',
    start: row?.start ?? ('filed' as KeepingStart),
    columnId: row?.columnId ?? null,
    end: row?.end ?? ('destroy' as KeepingEnd),
  });
  const inYears = row === null || (row.months ?? 12) % 12 === 0;
  const [count, setCount] = useState(
    row === null ? '7' : row.months === null ? '' : String(inYears ? row.months / 12 : row.months),
  );
  const [unit, setUnit] = useState<'years' | 'months'>(inYears ? 'years' : 'months');
  const set = (part: Partial<typeof fields>) => setFields({ ...fields, ...part });
  const dates = columns.filter(({ type }) => type === 'date');
  const months = count === '' ? null : Number(count) * (unit === 'years' ? 12 : 1);
  const isReady =
    !put.isPending &&
    fields.name.trim() !== '' &&
    (months !== null || fields.end === 'keep') &&
    (fields.start !== 'column' || fields.columnId !== null);
  return (
    <Dialog title={row === null ? 'New retention class' : `Change “${row.name}”`} open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!isReady) return;
          const { start, columnId } = fields;
          put.mutate(
            {
              classId: row?.id ?? null,
              revision: row?.revision ?? 0,
              fields: { ...fields, columnId: start === 'column' ? columnId : null, months },
            },
            {
              onSuccess: () => {
                say.done(`“${fields.name.trim()}” is saved`);
                onClose();
              },
            },
          );
        }}
      >
        <TextField
          label="Name"
          value={fields.name}
          maxLength={200}
          onChange={(event) => set({ name: event.target.value })}
        />
        <LongField
          label="Authority"
          help="The law, rule or decision that says so, in words."
          value={fields.authority}
          maxLength={1000}
          onChange={(event) => set({ authority: event.target.value })}
        />
        <div className="grid grid-cols-2 gap-x-3">
          <TextField
            label="Kept for"
            type="number"
            min={1}
            value={count}
            onChange={(event) => setCount(event.target.value)}
          />
          <ChoiceField label="Counted in" value={unit} onChange={(event) => setUnit(event.target.value as typeof unit)}>
            <option value="years">years</option>
            <option value="months">months</option>
          </ChoiceField>
        </div>
        <ChoiceField
          label="Counted"
          value={fields.start}
          onChange={(event) => set({ start: event.target.value as KeepingStart })}
        >
          {keepingStarts.map((each) => (
            <option key={each} value={each}>
              {keepingStartWords[each]}
            </option>
          ))}
        </ChoiceField>
        {fields.start === 'column' && (
          <ChoiceField
            label="Date"
            value={fields.columnId ?? ''}
            onChange={(event) => set({ columnId: event.target.value || null })}
            help={
              dates.length === 0
                ? 'The library has no column of dates yet. Define one under Columns of the library.'
                : undefined
            }
          >
            <option value="">Choose a column</option>
            {dates.map((column) => (
              <option key={column.id} value={column.id}>
                {column.name}
              </option>
            ))}
          </ChoiceField>
        )}
        <ChoiceField
          label="What then"
          value={fields.end}
          onChange={(event) => set({ end: event.target.value as KeepingEnd })}
          help="Nothing is destroyed by this alone: one keeper prepares a disposal, another approves it."
        >
          {keepingEnds.map((each) => (
            <option key={each} value={each}>
              {keepingEndWords[each]}
            </option>
          ))}
        </ChoiceField>
        {row !== null && (row.papers ?? 0) > 0 && (
          <p className="mb-2 border-l-[3px] border-straw-edge bg-straw px-2 py-1 text-straw-ink">
            It decides about {counted(row.papers ?? 0, 'paper')} now. All of them follow the change at once.
          </p>
        )}
        {put.error && (
          <p role="alert" className="mb-2 text-ember-ink">
            {saysOf(put.error)}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={!isReady}>
            Save
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
