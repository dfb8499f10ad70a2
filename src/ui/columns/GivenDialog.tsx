'use client';

import { useState } from 'react';
import { bindings, bindingTypes, bindingWords, type Binding, type Given, type GivenMode } from '@/core/columns/given';
import type { Column, Value } from '@/core/columns/model';
import { counted } from '@/core/text/measure';
import { ValueField } from './ValueField';
import { sendable } from './useValueActs';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useColumns } from './useColumns';
import { useAsOpened } from '../forms/useAsOpened';

interface Props {
  readonly place: { readonly id: string; readonly name: string; readonly revision: number };
  readonly onClose: () => void;
}

/** Edits what a place gives to its papers, by column, and shows how many papers would change. */
export function GivenDialog(props: Props) {
  const { data } = useAsk('given.of', { placeId: props.place.id });
  return data ? <Sheet {...props} own={data.own} names={data.names} inForce={data.inForce} /> : null;
}

interface SheetProps extends Props {
  readonly own: readonly Given[];
  readonly names: Readonly<Record<string, string>>;
  readonly inForce: readonly {
    readonly columnId: string;
    readonly fromId: string;
    readonly fromName: string;
    readonly mode: GivenMode;
  }[];
}

function Sheet({ names, inForce, onClose, ...now }: SheetProps) {
  const { place, own } = useAsOpened({ place: now.place, own: now.own });
  const { columns, lexicons } = useColumns(place.id);
  const [given, setGiven] = useState<readonly Given[]>(own);
  const sent = given
    .map((each) => ({ ...each, value: sendable(each.value) }))
    .filter((each) => each.value !== null || each.binding !== null);
  const dirty = JSON.stringify(sent) !== JSON.stringify(own.map((each) => ({ ...each, value: sendable(each.value) })));
  const forecast = useAsk('given.forecast', { placeId: place.id, given: sent }, { enabled: dirty, keepPrevious: true });
  const set = useAct('given.set', { quiet: true });
  const lineOf = (column: Column) => given.find((each) => each.columnId === column.id);
  const put = (column: Column, line: Omit<Given, 'columnId'> | null) =>
    setGiven((now) => [
      ...now.filter((each) => each.columnId !== column.id),
      ...(line ? [{ columnId: column.id, ...line }] : []),
    ]);

  return (
    <Dialog
      title={`What ${place.name} gives its papers`}
      about="Fixed: always what the place says. Offered: filled in when a paper arrives, then the paper's own. The nearest place that says anything counts."
      shape="wide"
      open
      onClose={onClose}
    >
      {columns.length === 0 && (
        <p className="text-soft">No columns are in force here yet. Define some first, under “This place”.</p>
      )}
      <table className="w-full text-left">
        <tbody>
          {columns.map((column) => {
            const line = lineOf(column);
            const from = inForce.find((each) => each.columnId === column.id && each.fromId !== place.id);
            const bound = bindings.filter((each) => bindingTypes[each].includes(column.type));
            return (
              <tr key={column.id} className="border-b border-line last:border-0">
                <th scope="row" className="w-36 py-1.5 pr-3 font-normal text-soft">
                  {column.name}
                </th>
                <td className="w-32">
                  <select
                    aria-label={`How ${column.name} is given`}
                    value={line?.mode ?? ''}
                    onChange={(event) =>
                      event.target.value === ''
                        ? put(column, null)
                        : put(column, {
                            mode: event.target.value === 'fixed' ? 'fixed' : 'offered',
                            value: line?.value ?? null,
                            binding:
                              line?.binding ??
                              (line?.value === undefined || line.value === null ? (bound[0] ?? null) : null),
                          })
                    }
                    className="h-[28px] rounded-sm border border-edge bg-sheet px-1"
                  >
                    <option value="">not given here</option>
                    <option value="fixed">fixed</option>
                    <option value="offered">offered</option>
                  </select>
                </td>
                <td className="w-44">
                  {line && bound.length > 0 && (
                    <select
                      aria-label={`What ${column.name} is bound to`}
                      value={line.binding ?? ''}
                      onChange={(event) => {
                        const binding: Binding | null = bindings.find((each) => each === event.target.value) ?? null;
                        put(column, { mode: line.mode, binding, value: null });
                      }}
                      className="h-[28px] rounded-sm border border-edge bg-sheet px-1"
                    >
                      <option value="">one value</option>
                      {bound.map((each) => (
                        <option key={each} value={each}>
                          {bindingWords[each]}
                        </option>
                      ))}
                    </select>
                  )}
                </td>
                <td>
                  {line && line.binding === null && (
                    <ValueField
                      column={column}
                      value={line.value}
                      instead="Choose a value"
                      lexicons={lexicons}
                      names={names}
                      onSet={(value: Value | null) => put(column, { mode: line.mode, binding: null, value })}
                    />
                  )}
                  {!line && from && (
                    <span className="text-sm text-soft">
                      {from.mode} by {from.fromName}
                    </span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {dirty && forecast.data && (
        <div
          role="status"
          className={`mt-4 rounded-sm border px-4 py-3 ${forecast.data.papers > 0 ? 'border-ember bg-ember-wash' : 'border-line bg-fog'}`}
        >
          {forecast.data.papers === 0 ? (
            <p>No existing paper would change.</p>
          ) : (
            <>
              <p className="font-condensed">{counted(forecast.data.papers, 'paper')} would change</p>
              <ul className="text-sm">
                {forecast.data.columns.map((each) => (
                  <li key={each.name}>
                    {each.name} of {counted(each.papers, 'paper')}
                    {each.overwritten > 0 &&
                      `, in place of what ${counted(each.overwritten, 'paper')} ${each.overwritten === 1 ? 'has' : 'have'} now`}
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      )}
      {(forecast.error ?? set.error) && (
        <p role="alert" className="mt-3 text-ember-ink">
          {saysOf(forecast.error ?? set.error)}
        </p>
      )}
      <DialogActs>
        <Button
          look="main"
          disabled={!dirty || set.isPending}
          onClick={() =>
            set.mutate(
              { placeId: place.id, given: sent, revision: place.revision },
              {
                onSuccess: ({ papers }) => {
                  say.done(`${place.name} gives these from now on; ${counted(papers, 'paper')} changed`);
                  onClose();
                },
              },
            )
          }
        >
          Save what {place.name} gives
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
