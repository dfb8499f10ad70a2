'use client';

import { useState } from 'react';
import { columnTypeWords, type Column } from '@/core/columns/model';
import type { ColumnsAt } from '@/core/columns/contract';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Menu } from '../kit/menu';
import { say } from '../kit/notice';
import { Waiting } from '../forms/Waiting';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { ColumnDialog } from './ColumnDialog';
import { TypeDialog } from './TypeDialog';

type Here = ColumnsAt['columns'][number];
type Open = { kind: 'new' } | { kind: 'change'; column: Here } | { kind: 'type'; column: Here };

/** The columns in force at a place: those it defines itself, and those that come from above. */
export function ColumnsPage({ placeId }: { readonly placeId: string }) {
  const { me, library } = useSurroundings();
  const { data, error } = useAsk('columns.at', { placeId });
  const { data: page } = useAsk('place.open', { placeId });
  const [open, setOpen] = useState<Open | null>(null);
  const reorder = useAct('column.reorder');
  const retire = useAct('column.retire');
  if (error || !data) return <Waiting what="the columns" error={error} />;
  const isLibrary = placeId === library.rootId;
  const name = isLibrary ? 'the whole library' : (page?.place.name ?? '…');
  const own = data.columns.filter((column) => column.placeId === placeId && !column.retired);

  function move(column: Column, by: -1 | 1) {
    const at = own.findIndex((each) => each.id === column.id);
    const before = by === -1 ? own[at - 1] : own[at + 2];
    if (at + by < 0 || at + by >= own.length) return;
    reorder.mutate({ columnId: column.id, beforeId: before?.id ?? null });
  }
  const setRetired = (column: Column, retired: boolean) =>
    retire.mutate(
      { columnId: column.id, retired, revision: column.revision },
      {
        onSuccess: () =>
          say.undoable(retired ? `“${column.name}” is retired; its values are kept` : `“${column.name}” is back`, () =>
            retire.mutate({ columnId: column.id, retired: !retired, revision: column.revision + 1 }),
          ),
      },
    );

  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <div className="mr-auto">
          <h1 className="font-condensed text-xl">Columns of {name}</h1>
          <p className="text-sm text-soft">
            What papers here are described by. A column holds for its place and everything below.{' '}
            {!isLibrary && (
              <Link href={`/place/${placeId}`} className="text-brine-ink underline underline-offset-2">
                Back to {name}
              </Link>
            )}
          </p>
        </div>
        {me.keeper && (
          <Link
            href="/lists"
            className="inline-flex h-[30px] items-center rounded-sm border border-line bg-sheet px-3 hover:border-edge"
          >
            Controlled lists
          </Link>
        )}
        {data.mayDefine && (
          <Button look="main" onClick={() => setOpen({ kind: 'new' })}>
            New column
          </Button>
        )}
      </div>
      {data.columns.length === 0 ? (
        <p className="rounded-sm border border-line bg-sheet px-4 py-8 text-center text-soft">
          No columns yet. Paper type, document date and status are good ones to begin with.
        </p>
      ) : (
        <div className="overflow-x-auto">
          <table className="w-full border border-line bg-sheet text-left">
            <thead>
              <tr className="border-b border-line text-sm text-soft">
                {['Name', 'Type', 'Values from', 'Defined for', ''].map((heading) => (
                  <th key={heading} scope="col" className="px-3 py-2 font-condensed">
                    {heading === '' ? <span className="sr-only">What can be done</span> : heading}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {data.columns.map((column) => (
                <tr
                  key={column.id}
                  className={`border-b border-line last:border-0 ${column.retired ? 'text-soft' : ''}`}
                >
                  <td className="px-3 py-1.5">
                    <span className="font-medium">{column.name}</span>
                    {column.required && <span className="ml-2 text-sm text-ember-ink">needed</span>}
                    {column.retired && <span className="ml-2 text-sm">retired</span>}
                    {column.help !== '' && <span className="block text-sm text-soft">{column.help}</span>}
                  </td>
                  <td className="px-3">
                    {columnTypeWords[column.type]}
                    <span className="text-sm text-soft">
                      {[column.unit, column.currency].filter(Boolean).map((each) => `, ${each}`)}
                    </span>
                  </td>
                  <td className="px-3">
                    {data.lists.find((list) => list.id === column.listId)?.name ?? <span className="text-soft">—</span>}
                    {column.listId !== null && (
                      <span className="text-sm text-soft">, {column.open ? 'open' : 'closed'}</span>
                    )}
                  </td>
                  <td className="px-3">{column.placeId === placeId ? 'here' : column.placeName}</td>
                  <td className="px-3 py-1 text-right">
                    {column.mayChange && (
                      <Menu
                        label="Change"
                        name={`Change the column ${column.name}`}
                        acts={
                          column.retired
                            ? [{ label: 'Restore it', act: () => setRetired(column, false) }]
                            : [
                                { label: 'Name, help, default…', act: () => setOpen({ kind: 'change', column }) },
                                ...(me.keeper
                                  ? [{ label: 'Its type…', act: () => setOpen({ kind: 'type' as const, column }) }]
                                  : []),
                                ...(column.placeId === placeId
                                  ? [
                                      { label: 'Move it up', act: () => move(column, -1) },
                                      { label: 'Move it down', act: () => move(column, 1) },
                                    ]
                                  : []),
                                { label: 'Retire it', act: () => setRetired(column, true), apart: true },
                              ]
                        }
                      />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p className="mt-3 text-sm text-soft">
        Besides these the library works out by itself each paper’s kind, pages, words and size, its home, and who filed
        and changed it, and when.
      </p>
      {open?.kind === 'new' && (
        <ColumnDialog
          placeId={placeId}
          placeName={name}
          lists={data.lists}
          column={null}
          onClose={() => setOpen(null)}
        />
      )}
      {open?.kind === 'change' && (
        <ColumnDialog
          placeId={placeId}
          placeName={name}
          lists={data.lists}
          column={open.column}
          onClose={() => setOpen(null)}
        />
      )}
      {open?.kind === 'type' && <TypeDialog column={open.column} lists={data.lists} onClose={() => setOpen(null)} />}
    </main>
  );
}
