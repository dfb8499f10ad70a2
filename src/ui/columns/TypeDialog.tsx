'use client';

import { useState } from 'react';
import {
  columnTypes,
  columnTypeWords,
  isListed,
  type Column,
  type ColumnType,
  type ControlledList,
} from '@/core/columns/model';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useAsOpened } from '../forms/useAsOpened';

/** Gives a column another type, after saying which values convert and which would be lost. */
export function TypeDialog({
  column: columnNow,
  lists,
  onClose,
}: {
  readonly column: Column;
  readonly lists: readonly ControlledList[];
  readonly onClose: () => void;
}) {
  const column = useAsOpened(columnNow);
  const [type, setType] = useState<ColumnType>(column.type);
  const [listId, setListId] = useState<string | null>(column.listId);
  const [currency, setCurrency] = useState(column.currency || 'GBP');
  const [addTerms, setAddTerms] = useState(false);
  const wanted = {
    type,
    listId: isListed(type) ? listId : null,
    unit: type === 'number' ? column.unit : '',
    decimals: type === 'number' ? column.decimals : null,
    currency: type === 'amount' ? currency : '',
  };
  const ready =
    (type !== column.type || listId !== column.listId || wanted.currency !== column.currency) &&
    (!isListed(type) || listId !== null);
  const forecast = useAsk('column.forecastType', { columnId: column.id, ...wanted }, { enabled: ready });
  const set = useAct('column.setType', { quiet: true });
  const { data } = forecast;
  return (
    <Dialog
      title={`Type of “${column.name}”`}
      about={`Now: ${columnTypeWords[column.type].toLowerCase()}.`}
      open
      onClose={onClose}
    >
      <ChoiceField
        label="New type"
        value={type}
        onChange={(event) => setType(columnTypes.find((each) => each === event.target.value) ?? type)}
      >
        {columnTypes.map((each) => (
          <option key={each} value={each}>
            {columnTypeWords[each]}
          </option>
        ))}
      </ChoiceField>
      {isListed(type) && (
        <ChoiceField
          label="Controlled list"
          value={listId ?? ''}
          onChange={(event) => setListId(event.target.value || null)}
        >
          <option value="">Choose a list</option>
          {lists.map((list) => (
            <option key={list.id} value={list.id}>
              {list.name}
            </option>
          ))}
        </ChoiceField>
      )}
      {type === 'amount' && (
        <TextField
          label="Currency"
          value={currency}
          onChange={(event) => setCurrency(event.target.value.toUpperCase())}
        />
      )}
      {forecast.error && (
        <p role="alert" className="text-ember-ink">
          {saysOf(forecast.error)}
        </p>
      )}
      {data && ready && (
        <div
          role="status"
          className={`rounded-sm border px-4 py-3 ${data.lost > 0 ? 'border-ember bg-ember-wash' : 'border-line bg-fog'}`}
        >
          <p>
            The values of <strong>{counted(data.converts, 'paper')}</strong> convert;{' '}
            {data.lost === 0 ? (
              'none is lost.'
            ) : (
              <strong>{`those of ${counted(data.lost, 'paper')} would be lost.`}</strong>
            )}
          </p>
          <ul className="mt-1 text-sm">
            {data.examples.map((each) => (
              <li key={each.text}>
                “{each.text}” on {counted(each.papers, 'paper')}: {each.says}
              </li>
            ))}
          </ul>
          {data.newTerms.length > 0 && (
            <label className="mt-2 flex items-center gap-2">
              <input
                type="checkbox"
                checked={addTerms}
                onChange={() => setAddTerms(!addTerms)}
                className="size-4 accent-brine"
              />
              Put {counted(data.newTerms.length, 'new value')} on the list, so that none of these is lost
            </label>
          )}
        </div>
      )}
      {set.error && (
        <p role="alert" className="text-ember-ink">
          {saysOf(set.error)}
        </p>
      )}
      <DialogActs>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          look="main"
          disabled={!ready || !data || set.isPending}
          onClick={() =>
            set.mutate(
              { columnId: column.id, ...wanted, revision: column.revision, addTerms },
              {
                onSuccess: ({ changed }) => {
                  say.done(`“${column.name}” has its new type; ${counted(changed, 'paper')} were converted`);
                  onClose();
                },
              },
            )
          }
        >
          Change the type
        </Button>
      </DialogActs>
    </Dialog>
  );
}
