'use client';

import { useRef, useState } from 'react';
import type { TablePlan } from '@/core/columns/table';
import { counted } from '@/core/text/measure';
import { useHand } from '../hand/HandProvider';
import { useValueActs } from './useValueActs';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useColumns } from './useColumns';

interface Props {
  readonly place: { readonly id: string; readonly name: string };
  readonly onClose: () => void;
}
interface Brought {
  readonly fileName: string;
  readonly form: 'csv' | 'xlsx';
  readonly content: string;
}

async function asBase64(file: File): Promise<string> {
  const address = await new Promise<string>((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error('The file cannot be read'));
    reader.readAsDataURL(file);
  });
  return address.slice(address.indexOf(',') + 1);
}

const most = 40;

/** Exports values as a table, and imports a corrected one after showing every change. */
export function TableDialog({ place, onClose }: Props) {
  const { columns } = useColumns(place.id);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [mark, setMark] = useState(true);
  const inHand = [...useHand().held.keys()];
  const [onlyHand, setOnlyHand] = useState(false);
  const [brought, setBrought] = useState<Brought | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const preview = useAct('table.preview', { quiet: true });
  const apply = useAct('table.apply', { quiet: true });
  const { told } = useValueActs();
  const chosen = columns.filter((column) => !left.has(column.id)).map((column) => column.id);

  async function bring(files: FileList | null) {
    const [first] = files ?? [];
    if (!first) return;
    const next: Brought = {
      fileName: first.name,
      form: /\.xlsx$/iu.test(first.name) ? 'xlsx' : 'csv',
      content: await asBase64(first),
    };
    setBrought(next);
    preview.mutate({ placeId: place.id, form: next.form, content: next.content });
  }
  function make(onlyGood: boolean) {
    if (!brought) return;
    apply.mutate(
      { placeId: place.id, form: brought.form, content: brought.content, onlyGood },
      {
        onSuccess: ({ changed, entryId }) => {
          told(`${counted(changed, 'paper')} changed from “${brought.fileName}”`, entryId);
          onClose();
        },
      },
    );
  }
  const wrong = preview.error ?? apply.error;

  return (
    <Dialog
      title={`Values of ${place.name} as a table`}
      about="Of all papers here and below that are open to you."
      shape="wide"
      open
      onClose={onClose}
    >
      <form action={`/api/table/${place.id}`} method="post" className="border-b border-line pb-4">
        <h3 className="font-condensed">Export</h3>
        <div className="my-2 flex flex-wrap gap-x-4 gap-y-1">
          {columns.map((column) => (
            <label key={column.id} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={!left.has(column.id)}
                onChange={() =>
                  setLeft(
                    new Set(
                      left.has(column.id) ? [...left].filter((each) => each !== column.id) : [...left, column.id],
                    ),
                  )
                }
                className="size-[14px] accent-brine"
              />
              {column.name}
            </label>
          ))}
          {columns.length === 0 && <span className="text-soft">No columns are in force here.</span>}
        </div>

        {inHand.length > 0 && (
          <label className="mb-2 flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={onlyHand}
              onChange={() => setOnlyHand(!onlyHand)}
              className="size-[14px] accent-brine"
            />
            Only those of the {counted(inHand.length, 'paper')} in hand
          </label>
        )}
        <input type="hidden" name="papers" value={onlyHand ? inHand.join(',') : ''} />
        <input type="hidden" name="columns" value={chosen.join(',')} />
        <input type="hidden" name="mark" value={mark ? 'yes' : 'no'} />
        <div className="flex flex-wrap items-center gap-2">
          <Button type="submit" name="form" value="csv" disabled={chosen.length === 0}>
            As CSV
          </Button>
          <Button type="submit" name="form" value="xlsx" disabled={chosen.length === 0}>
            As a workbook (XLSX)
          </Button>
          <label className="flex items-center gap-1.5 text-sm">
            <input
              type="checkbox"
              checked={mark}
              onChange={() => setMark(!mark)}
              className="size-[14px] accent-brine"
            />
            CSV with the mark that older spreadsheets need
          </label>
        </div>
      </form>
      <h3 className="mt-4 font-condensed">Import again</h3>
      <p className="text-sm text-soft">
        Lines are matched by their paper id, or by their path. Nothing is written before you have seen every change.
      </p>
      <Button className="mt-2" onClick={() => file.current?.click()}>
        {brought ? `Choose another file than ${brought.fileName}` : 'Choose the corrected table'}
      </Button>
      <input
        ref={file}
        type="file"
        hidden
        aria-label="The corrected table"
        accept=".csv,.xlsx,.txt,.tsv"
        onChange={(event) => {
          void bring(event.target.files);
          event.target.value = '';
        }}
      />
      {preview.isPending && <p aria-busy>Comparing…</p>}
      {wrong && (
        <p role="alert" className="mt-2 text-ember-ink">
          {saysOf(wrong)}
        </p>
      )}
      {preview.data && brought && <Plan plan={preview.data} />}
      <DialogActs>
        {preview.data && preview.data.changes.length > 0 && (
          <Button look="main" disabled={apply.isPending} onClick={() => make(preview.data.errors.length > 0)}>
            {preview.data.errors.length > 0 ? 'Import only the valid cells: ' : 'Import '}
            {counted(preview.data.changes.length, 'change')} of {counted(preview.data.papers, 'paper')}
          </Button>
        )}
        <Button onClick={onClose}>Close</Button>
      </DialogActs>
    </Dialog>
  );
}

function Plan({ plan }: { readonly plan: TablePlan }) {
  return (
    <div className="mt-3" role="status">
      {plan.changes.length === 0 && plan.errors.length === 0 && <p>The table says just what is here already.</p>}
      {plan.errors.length > 0 && (
        <div className="mb-3 rounded-sm border border-ember bg-ember-wash px-4 py-2">
          <p className="font-condensed">{counted(plan.errors.length, 'fault')}</p>
          <ul className="max-h-40 overflow-y-auto text-sm">
            {plan.errors.slice(0, most).map((each) => (
              <li key={`${each.line} ${each.column} ${each.says}`}>
                Line {each.line}
                {each.column !== '' && `, ${each.column}`}: {each.says}
              </li>
            ))}
            {plan.errors.length > most && <li>and {plan.errors.length - most} more</li>}
          </ul>
        </div>
      )}
      {plan.ignoredColumns.length > 0 && (
        <p className="text-sm text-soft">Not columns here, so left alone: {plan.ignoredColumns.join(', ')}.</p>
      )}
      {plan.changes.length > 0 && (
        <table className="mt-2 w-full text-left text-sm">
          <thead>
            <tr className="border-b border-line text-soft">
              <th scope="col">Paper</th>
              <th scope="col">Column</th>
              <th scope="col">Now</th>
              <th scope="col">Then</th>
            </tr>
          </thead>
          <tbody>
            {plan.changes.slice(0, most).map((each) => (
              <tr key={`${each.documentId} ${each.columnId}`} className="border-b border-line align-top">
                <td className="py-1 pr-2">{each.title}</td>
                <td className="pr-2">{each.columnName}</td>
                <td className="pr-2 text-soft">{each.before === '' ? 'nothing' : each.before}</td>
                <td>{each.after === '' ? 'nothing' : each.after}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {plan.changes.length > most && <p className="text-sm text-soft">and {plan.changes.length - most} more changes</p>}
    </div>
  );
}
