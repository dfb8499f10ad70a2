'use client';

import { useState } from 'react';
import type { ClassRow } from '@/core/retention/contract';
import { keptInWords } from '@/core/retention/schedule';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Menu } from '../kit/menu';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { ClassDialog } from './ClassDialog';
import { GiveDialog } from './GiveDialog';
import { TakeInDialog } from './TakeInDialog';

const papersOf = (classId: string): string =>
  `/duties?view=plain&if=${encodeURIComponent(JSON.stringify([{ of: 'keptClass', anyOf: [classId] }]))}`;

/** The retention schedule: its classes, where each counts, and how many papers it decides about. */
export function ScheduleList() {
  const { data, error } = useAsk(
    'retention.classes',
    {},
    { again: (rows) => (rows.some(({ papers }) => papers === null) ? 1000 : false) },
  );
  const remove = useAct('retention.removeClass');
  const takeAway = useAct('retention.takeAway');
  const [dialog, setDialog] = useState<{ kind: 'class' | 'give'; row: ClassRow | null } | 'csv' | null>(null);
  if (error) return <p role="alert">{saysOf(error)}</p>;
  if (!data) return <p aria-busy>…</p>;
  const close = () => setDialog(null);
  return (
    <>
      <div className="mb-3 flex flex-wrap gap-2">
        <Button look="main" onClick={() => setDialog({ kind: 'class', row: null })}>
          New class…
        </Button>
        <Button onClick={() => setDialog('csv')}>Take a schedule in…</Button>
        {data.length > 0 && (
          <a
            href="/api/schedule"
            className="inline-flex h-[30px] items-center rounded-sm border border-line bg-sheet px-3 hover:border-edge"
          >
            Download as CSV
          </a>
        )}
      </div>
      {data.length === 0 ? (
        <p className="rounded-sm border border-line bg-sheet px-4 py-6 text-soft">
          No class is set yet: every paper is kept. A class says how long papers are kept, by what authority, and what
          then; places give it to their papers.
        </p>
      ) : (
        <ul className="rounded-sm border border-line bg-sheet">
          {data.map((row) => (
            <li key={row.id} className="border-b border-line px-4 py-2.5 last:border-0">
              <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
                <h2 className="font-condensed text-lg">{row.name}</h2>
                <span>
                  {row.start === 'column' && row.end !== 'keep'
                    ? keptInWords(row).replace('a date of the paper', row.columnName)
                    : keptInWords(row)}
                </span>
                {row.papers !== null && (
                  <Link href={papersOf(row.id)} className="text-sm text-brine-ink hover:underline">
                    {counted(row.papers, 'paper')}
                  </Link>
                )}
                <span className="ml-auto">
                  <Menu
                    label="More"
                    name={`More to do with ${row.name}`}
                    acts={[
                      { label: 'Change…', act: () => setDialog({ kind: 'class', row }) },
                      { label: 'Where it counts…', act: () => setDialog({ kind: 'give', row }) },
                      {
                        label: 'Remove',
                        act: () =>
                          remove.mutate(
                            { classId: row.id, revision: row.revision },
                            { onSuccess: () => say.done(`“${row.name}” is removed`) },
                          ),
                        apart: true,
                      },
                    ]}
                  />
                </span>
              </div>
              {row.authority !== '' && <p className="text-sm text-soft">{row.authority}</p>}
              <ul className="mt-1 flex flex-wrap gap-1.5">
                {row.rules.map((rule) => (
                  <li
                    key={rule.id}
                    className="inline-flex items-center gap-1 rounded-sm border border-line px-2 text-sm"
                  >
                    <Link href={`/place/${rule.placeId}`} className="hover:underline">
                      {rule.placeName}
                    </Link>
                    {rule.typeName !== null && <span className="text-soft">{rule.typeName}</span>}
                    <button
                      type="button"
                      aria-label={`Take ${row.name} from ${rule.placeName}${rule.typeName === null ? '' : `, ${rule.typeName}`}`}
                      className="px-1 text-soft hover:text-ink"
                      onClick={() => takeAway.mutate({ ruleId: rule.id })}
                    >
                      ×
                    </button>
                  </li>
                ))}
                {row.rules.length === 0 && (
                  <li className="text-sm text-soft">
                    It counts nowhere yet.{' '}
                    <button
                      type="button"
                      className="text-brine-ink hover:underline"
                      onClick={() => setDialog({ kind: 'give', row })}
                    >
                      Say where
                    </button>
                  </li>
                )}
              </ul>
            </li>
          ))}
        </ul>
      )}
      {dialog === 'csv' && <TakeInDialog onClose={close} />}
      {dialog !== null && dialog !== 'csv' && dialog.kind === 'class' && (
        <ClassDialog row={dialog.row} onClose={close} />
      )}
      {dialog !== null && dialog !== 'csv' && dialog.kind === 'give' && dialog.row && (
        <GiveDialog row={dialog.row} onClose={close} />
      )}
    </>
  );
}
