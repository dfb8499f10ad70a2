'use client';

import { useState } from 'react';
import { dayInWords } from '@/core/calendar/moment';
import { writeDay } from '@/core/calendar/typedDay';
import type { RunPage } from '@/core/retention/contract';
import { itemStateWords, runStateWords } from '@/core/retention/run';
import { counted, sizeInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField, TextField } from '../kit/field';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { countsInWords } from './RunList';

const mostShown = 1000;
const atFirst = 200;

/** One disposal by the schedule: what is due, by class and dossier, what is held and why, and the acts of its two keepers. */
export function RunSheet({ runId, onBack }: { readonly runId: string; readonly onBack: () => void }) {
  const { timeZone } = useSurroundings();
  const [most, setMost] = useState(atFirst);
  const { data, error } = useAsk('run.open', { runId, states: [], most }, { keepPrevious: true });
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [dialog, setDialog] = useState<'leaveOut' | 'approve' | 'destroy' | null>(null);
  const putIn = useAct('run.leaveOut');
  const abandon = useAct('run.abandon');
  if (error) return <p role="alert">{saysOf(error)}</p>;
  if (!data) return <p aria-busy>…</p>;
  const isWaiting = data.state === 'prepared';
  const going = data.counts.listed ?? 0;
  const inTray = data.counts.disposed ?? 0;
  const tickable = data.items.filter(({ state }) => state === 'listed');
  return (
    <>
      <div className="mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-2">
        <Button look="quiet" className="!px-1" onClick={onBack}>
          All disposals
        </Button>
        <h2 className="font-condensed text-lg">Disposal of {dayInWords(data.preparedAt, timeZone)}</h2>
        <span className={isWaiting ? 'text-ember-ink' : ''}>{runStateWords[data.state]}</span>
        <span className="text-sm text-soft">{countsInWords(data.counts)}</span>
      </div>
      <p className="mb-3 max-w-[90ch] text-sm text-soft">
        Prepared by {data.preparedBy}
        {data.approvedBy !== null && `, approved by ${data.approvedBy}`}. The certificate is filed in {data.placeName}.
        {data.note !== '' && ` ${data.note}`}
      </p>
      <div className="mb-4 flex flex-wrap gap-2">
        {isWaiting && (
          <>
            {data.isMine ? (
              <p className="border-l-[3px] border-straw-edge bg-straw px-2 py-1 text-straw-ink">
                You prepared it: another keeper looks through it and approves.
              </p>
            ) : (
              <Button look="main" disabled={going === 0} onClick={() => setDialog('approve')}>
                Approve…
              </Button>
            )}
            <Button disabled={ticked.size === 0} onClick={() => setDialog('leaveOut')}>
              Leave {ticked.size === 0 ? 'ticked papers' : counted(ticked.size, 'paper')} out…
            </Button>
            <Button
              look="quiet"
              onClick={() =>
                abandon.mutate(
                  { runId, revision: data.revision },
                  { onSuccess: () => say.done('The disposal is abandoned. Nothing happened to its papers.') },
                )
              }
            >
              Abandon it
            </Button>
          </>
        )}
        {data.state === 'approved' && inTray > 0 && (
          <Button onClick={() => setDialog('destroy')}>Destroy what is in the tray now…</Button>
        )}
        {data.certificateId !== null && (
          <Link
            href={`/paper/${data.certificateId}`}
            className="inline-flex h-[30px] items-center rounded-sm border border-brine bg-brine px-3 font-semibold text-on-brine"
          >
            Certificate of destruction
          </Link>
        )}
      </div>
      <Groups run={data} />
      <div className="mt-4 overflow-x-auto">
        <table className="w-full border border-line bg-sheet text-left">
          <thead>
            <tr className="border-b border-line font-condensed text-sm text-soft">
              {isWaiting && (
                <th className="w-[36px] px-3 py-1.5">
                  <input
                    type="checkbox"
                    aria-label="Tick all papers"
                    className="size-[15px] accent-brine"
                    checked={tickable.length > 0 && ticked.size === tickable.length}
                    onChange={(event) =>
                      setTicked(new Set(event.target.checked ? tickable.map(({ documentId }) => documentId) : []))
                    }
                  />
                </th>
              )}
              <th className="px-3 py-1.5">Paper</th>
              <th className="px-3 py-1.5 max-sm:hidden">Where</th>
              <th className="px-3 py-1.5 max-md:hidden">Class</th>
              <th className="px-3 py-1.5 max-sm:hidden">Kept until</th>
              <th className="px-3 py-1.5">State</th>
            </tr>
          </thead>
          <tbody>
            {data.items.map((item) => (
              <tr key={item.documentId} className="border-b border-line last:border-0">
                {isWaiting && (
                  <td className="px-3 py-1">
                    {item.state === 'listed' && (
                      <input
                        type="checkbox"
                        aria-label={`Tick ${item.title}`}
                        className="size-[15px] accent-brine"
                        checked={ticked.has(item.documentId)}
                        onChange={(event) =>
                          setTicked(
                            event.target.checked
                              ? new Set([...ticked, item.documentId])
                              : new Set([...ticked].filter((id) => id !== item.documentId)),
                          )
                        }
                      />
                    )}
                  </td>
                )}
                <td className="max-w-[320px] truncate px-3 py-1 max-sm:max-w-[170px]">
                  {item.state === 'destroyed' ? (
                    item.title
                  ) : (
                    <Link href={`/paper/${item.documentId}`} className="hover:underline">
                      {item.title}
                    </Link>
                  )}
                </td>
                <td className="px-3 py-1 max-sm:hidden">{item.placeName}</td>
                <td className="px-3 py-1 max-md:hidden">{item.className}</td>
                <td className="figures px-3 py-1 whitespace-nowrap max-sm:hidden">{writeDay(item.keptUntil)}</td>
                <td className="px-3 py-1">
                  {itemStateWords[item.state]}
                  {item.reason !== '' && <span className="block text-sm text-soft">{item.reason}</span>}
                  {isWaiting && item.state === 'leftOut' && (
                    <button
                      type="button"
                      className="text-sm text-brine-ink hover:underline"
                      onClick={() => putIn.mutate({ runId, documentIds: [item.documentId], out: false, reason: '' })}
                    >
                      Put in again
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {data.total > data.items.length && (
        <p className="mt-2">
          {data.items.length.toLocaleString('en-GB')} of {counted(data.total, 'paper')}.{' '}
          {most < mostShown && (
            <Button look="quiet" onClick={() => setMost(mostShown)}>
              Show more
            </Button>
          )}
        </p>
      )}
      {dialog === 'leaveOut' && (
        <LeaveOutDialog
          runId={runId}
          ids={[...ticked]}
          onClose={() => setDialog(null)}
          onDone={() => {
            setTicked(new Set());
            setDialog(null);
          }}
        />
      )}
      {dialog === 'approve' && <ApproveDialog run={data} onClose={() => setDialog(null)} />}
      {dialog === 'destroy' && <DestroyRunDialog run={data} papers={inTray} onClose={() => setDialog(null)} />}
    </>
  );
}

/** What is due by class and dossier. */
const Groups = ({ run }: { readonly run: RunPage }) => (
  <ul className="rounded-sm border border-line bg-sheet">
    {run.groups.map(({ className, authority, dossierName, papers, sizeBytes }) => (
      <li
        key={`${className} ${dossierName}`}
        className="flex flex-wrap items-baseline gap-x-3 border-b border-line px-3 py-1.5 last:border-0"
      >
        <span className="font-medium">{className}</span>
        <span>{dossierName === '' ? 'in no dossier' : dossierName}</span>
        <span className="min-w-0 flex-1 truncate text-sm text-soft max-sm:hidden">{authority}</span>
        <span className="figures ml-auto text-sm">
          {counted(papers, 'paper')} · {sizeInWords(sizeBytes)}
        </span>
      </li>
    ))}
  </ul>
);

function LeaveOutDialog({
  runId,
  ids,
  onClose,
  onDone,
}: {
  readonly runId: string;
  readonly ids: readonly string[];
  readonly onClose: () => void;
  readonly onDone: () => void;
}) {
  const leaveOut = useAct('run.leaveOut', { quiet: true });
  const [reason, setReason] = useState('');
  return (
    <Dialog title={`Leave ${counted(ids.length, 'paper')} out of the disposal`} open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (reason.trim() !== '')
            leaveOut.mutate({ runId, documentIds: [...ids], out: true, reason: reason.trim() }, { onSuccess: onDone });
        }}
      >
        <LongField label="Why" value={reason} maxLength={500} onChange={(event) => setReason(event.target.value)} />
        {leaveOut.error && (
          <p role="alert" className="mb-2 text-ember-ink">
            {saysOf(leaveOut.error)}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={reason.trim() === '' || leaveOut.isPending}>
            Leave out
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}

function ApproveDialog({ run, onClose }: { readonly run: RunPage; readonly onClose: () => void }) {
  const approve = useAct('run.approve', { quiet: true });
  const going = run.counts.listed ?? 0;
  return (
    <Dialog
      title={`Approve the disposal of ${counted(going, 'paper')}`}
      about="They go into the disposal tray, and are destroyed when their days there are over. Until then each can be put back."
      open
      onClose={onClose}
    >
      <p>
        Every paper is worked out once more. What is no longer due, locked, or under a hold stays, and the list says
        why.
        {(run.counts.held ?? 0) > 0 &&
          ` ${counted(run.counts.held ?? 0, 'paper under a hold stays', 'papers under a hold stay')} in any case.`}
      </p>
      {approve.error && (
        <p role="alert" className="mt-2 text-ember-ink">
          {saysOf(approve.error)}
        </p>
      )}
      <DialogActs>
        <Button onClick={onClose}>Not yet</Button>
        <Button
          look="main"
          disabled={approve.isPending}
          onClick={() =>
            approve.mutate(
              { runId: run.id, revision: run.revision },
              {
                onSuccess: ({ disposed, kept }) => {
                  say.done(`${counted(disposed, 'paper')} in the disposal tray${kept > 0 ? `, ${kept} kept` : ''}`);
                  onClose();
                },
              },
            )
          }
        >
          Approve {counted(going, 'paper')}
        </Button>
      </DialogActs>
    </Dialog>
  );
}

function DestroyRunDialog({
  run,
  papers,
  onClose,
}: {
  readonly run: RunPage;
  readonly papers: number;
  readonly onClose: () => void;
}) {
  const destroy = useAct('run.destroy', { quiet: true });
  const [typed, setTyped] = useState('');
  const isSure = typed.trim() === String(papers) && !destroy.isPending;
  return (
    <Dialog title={`Destroy ${counted(papers, 'paper')}`} about="This cannot be undone." open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (isSure)
            destroy.mutate(
              { runId: run.id, papers },
              {
                onSuccess: ({ destroyed, kept }) => {
                  say.done(
                    `${counted(destroyed, 'paper')} destroyed${kept > 0 ? `; ${kept} held or locked, kept` : ''}. The certificate follows by itself.`,
                  );
                  onClose();
                },
              },
            );
        }}
      >
        <p className="mb-3">
          Every version goes. The certificate names each with its hash, and the journal keeps that they were here.
        </p>
        <div className="max-w-[240px]">
          <TextField
            label={`Type ${papers} to go on`}
            inputMode="numeric"
            autoComplete="off"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
        </div>
        {destroy.error && (
          <p role="alert" className="mb-2 text-ember-ink">
            {saysOf(destroy.error)}
          </p>
        )}
        <DialogActs>
          <Button onClick={onClose}>Keep them</Button>
          <Button look="main" type="submit" disabled={!isSure}>
            Destroy {counted(papers, 'paper')}
          </Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
