'use client';

import { useState } from 'react';
import { Lexicon } from '@/core/columns/lexicon';
import { plainFields, type ColumnFields } from '@/core/columns/contract';
import {
  columnMeanings,
  columnMeaningWords,
  columnTypes,
  columnTypeWords,
  isListed,
  type Column,
  type ColumnMeaning,
  type ControlledList,
} from '@/core/columns/model';
import { counted } from '@/core/text/measure';
import { ValueField } from './ValueField';
import { sendable } from './useValueActs';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { useAsOpened } from '../forms/useAsOpened';

interface Props {
  readonly placeId: string;
  readonly placeName: string;
  readonly lists: readonly ControlledList[];
  /** The column to change; null to make one. */
  readonly column: Column | null;
  readonly onClose: () => void;
}

/** Ready-made columns that most libraries want. */
const ready: readonly {
  readonly name: string;
  readonly fields: Partial<ColumnFields>;
  readonly terms?: readonly string[];
}[] = [
  {
    name: 'Paper type',
    fields: { type: 'choice', required: true, help: 'What kind of paper it is.' },
    terms: [
      'Agenda',
      'Minutes',
      'Report',
      'Letter',
      'Invoice',
      'Contract',
      'Certificate',
      'Policy',
      'Plan',
      'Photograph',
      'Notes',
    ],
  },
  { name: 'Document date', fields: { type: 'date', help: 'The day the paper itself bears.' } },
  {
    name: 'Status',
    fields: { type: 'choice', help: 'Whether it is in force.' },
    terms: ['Current', 'Superseded', 'Archived'],
  },
  { name: 'Author', fields: { type: 'text', help: 'Who wrote it, inside or outside.' } },
  { name: 'Reference', fields: { type: 'text', help: 'The number the paper itself bears.' } },
];

const empty: ColumnFields = { ...plainFields, name: '', type: 'choice', currency: 'GBP' };

/** Makes a column, from scratch or from a ready-made one, or changes one except its type. */
export function ColumnDialog({ placeId, placeName, lists, column: columnNow, onClose }: Props) {
  const column = useAsOpened(columnNow);
  const { me } = useSurroundings();
  const define = useAct('column.define', { quiet: true });
  const change = useAct('column.change', { quiet: true });
  const createList = useAct('list.create', { quiet: true });
  const [fields, setFields] = useState<ColumnFields>(
    column ? { ...column, defaultValue: sendable(column.defaultValue) } : empty,
  );
  const [wrong, setWrong] = useState<string>();
  const [newList, setNewList] = useState<readonly string[] | null>(null);
  const set = (some: Partial<ColumnFields>) => setFields((now) => ({ ...now, ...some }));
  const listed = isListed(fields.type);
  const lexicons = new Map(lists.map((list) => [list.id, new Lexicon(list.terms)]));
  const draft: Column = {
    ...(column ?? { id: 'draft', placeId, position: 0, retired: false, revision: 0 }),
    ...fields,
    name: fields.name || 'Default',
  };

  async function save() {
    setWrong(undefined);
    try {
      let { listId } = fields;
      if (!column && listed && newList !== null) {
        listId = (
          await createList.mutateAsync({ name: fields.name, terms: newList.map((name) => name.trim()).filter(Boolean) })
        ).id;
      }
      const currency = fields.type === 'amount' ? fields.currency : '';
      if (column) await change.mutateAsync({ ...fields, currency, columnId: column.id, revision: column.revision });
      else {
        const { missing } = await define.mutateAsync({ ...fields, currency, listId, placeId });
        say.done(
          missing > 0 ? `The column is there; ${counted(missing, 'paper')} lack it so far` : 'The column is there',
        );
      }
      onClose();
    } catch (error) {
      setWrong(saysOf(error));
    }
  }

  return (
    <Dialog title={column ? `Column “${column.name}”` : `New column for ${placeName}`} open onClose={onClose}>
      {!column && (
        <div className="mb-3 flex flex-wrap items-center gap-2">
          <span className="text-sm text-soft">Ready ones:</span>
          {ready.map((each) => (
            <Button
              key={each.name}
              onClick={() => {
                const there = lists.find((list) => list.name === each.name);
                setFields({ ...empty, ...each.fields, name: each.name, listId: there?.id ?? null });
                setNewList(each.terms && !there && me.keeper ? each.terms : null);
              }}
            >
              {each.name}
            </Button>
          ))}
        </div>
      )}
      <TextField
        label="Name"
        autoFocus
        value={fields.name}
        onChange={(event) => set({ name: event.target.value })}
        wrong={wrong}
      />
      <TextField
        label="Help"
        help="Optional; shown beside the name."
        value={fields.help}
        onChange={(event) => set({ help: event.target.value })}
      />
      {!column && (
        <ChoiceField
          label="Type"
          value={fields.type}
          onChange={(event) =>
            set({ type: columnTypes.find((type) => type === event.target.value) ?? 'text', defaultValue: null })
          }
        >
          {columnTypes.map((type) => (
            <option key={type} value={type}>
              {columnTypeWords[type]}
            </option>
          ))}
        </ChoiceField>
      )}
      {!column && listed && (
        <>
          <ChoiceField
            label="Controlled list"
            value={newList === null ? (fields.listId ?? '') : 'new'}
            onChange={(event) => {
              if (event.target.value === 'new') setNewList([]);
              else {
                setNewList(null);
                set({ listId: event.target.value || null, defaultValue: null });
              }
            }}
          >
            <option value="">Choose a list</option>
            {lists.map((list) => (
              <option key={list.id} value={list.id}>
                {list.name}
              </option>
            ))}
            {me.keeper && <option value="new">A new list for it</option>}
          </ChoiceField>
          {newList !== null && (
            <label className="mb-3.5 block text-sm font-semibold">
              Its values, one a line
              <textarea
                rows={5}
                value={newList.join('\n')}
                onChange={(event) => setNewList(event.target.value.split('\n'))}
                className="mt-1 w-full rounded-sm border border-edge bg-sheet px-2.5 py-1.5 text-base font-normal"
              />
            </label>
          )}
        </>
      )}
      {listed && (
        <label className="mb-3 flex items-center gap-2">
          <input
            type="checkbox"
            checked={fields.open}
            onChange={() => set({ open: !fields.open })}
            className="size-4 accent-brine"
          />
          Open: people may add to the list while they describe
        </label>
      )}
      {fields.type === 'number' && (
        <div className="grid grid-cols-2 gap-3">
          <TextField
            label="Unit"
            help="m, berths"
            value={fields.unit}
            onChange={(event) => set({ unit: event.target.value })}
          />
          <TextField
            label="Decimals"
            help="Empty: as many as are typed."
            inputMode="numeric"
            value={fields.decimals ?? ''}
            onChange={(event) =>
              set({ decimals: /^[0-6]$/u.test(event.target.value) ? Number(event.target.value) : null })
            }
          />
        </div>
      )}
      {fields.type === 'date' && (
        <ChoiceField
          label="It says"
          help="What runs out is told of sixty days before; an expected paper that ran out is missing."
          value={fields.meaning}
          onChange={(event) => set({ meaning: event.target.value as ColumnMeaning })}
        >
          {columnMeanings.map((each) => (
            <option key={each} value={each}>
              {columnMeaningWords[each]}
            </option>
          ))}
        </ChoiceField>
      )}
      {fields.type === 'amount' && !column && (
        <TextField
          label="Currency"
          help="By its ISO 4217 code: GBP, EUR."
          value={fields.currency}
          onChange={(event) => set({ currency: event.target.value.toUpperCase() })}
        />
      )}
      <label className="mb-3 flex items-center gap-2">
        <input
          type="checkbox"
          checked={fields.required}
          onChange={() => set({ required: !fields.required })}
          className="size-4 accent-brine"
        />
        Required: papers without a value are counted
      </label>
      {newList === null && (
        <div className="mb-3">
          <p className="mb-1 text-sm font-semibold">Default for new papers</p>
          <ValueField
            column={draft}
            value={fields.defaultValue}
            instead="nothing"
            lexicons={lexicons}
            names={{}}
            onSet={(value) => set({ defaultValue: sendable(value) })}
          />
        </div>
      )}
      <DialogActs>
        <Button look="main" disabled={define.isPending || change.isPending} onClick={() => void save()}>
          {column ? 'Save the column' : `Make the column for ${placeName}`}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
