'use client';

import { useState } from 'react';
import { dayInWords } from '@/core/calendar/moment';
import type { PackIssueRow } from '@/core/packs/contract';
import type { IssueFault } from '@/core/packs/model';
import { counted, timeLeftInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { say } from '../kit/notice';
import { IssuedLink } from './IssuedLink';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

const faultWords: Readonly<Record<IssueFault, string>> = {
  papers: 'A paper changed while it was made.',
  tooLarge: 'It comes to more than 200 MB. Make two packs of it.',
  disk: 'There was no room on the disk. Ask whoever runs the machine.',
  gaveUp: 'It did not come to an end, three times. The log says why.',
};

/** Whether an issue is still to come. */
export const isComing = ({ state }: PackIssueRow): boolean => state === 'waiting' || state === 'making';

/** The issues of a pack: how far one is, what became of it, and what leads to it. */
export function IssueList({
  issues,
  mayChange,
}: {
  readonly issues: readonly PackIssueRow[];
  readonly mayChange: boolean;
}) {
  return (
    <ul aria-label="Issues" className="rounded-sm border border-line bg-sheet empty:hidden">
      {issues.map((issue) => (
        <li
          key={issue.id}
          className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-1.5 last:border-b-0"
        >
          <IssueWords issue={issue} />
          {mayChange && <IssueActs issue={issue} />}
        </li>
      ))}
    </ul>
  );
}

function IssueWords({ issue }: { readonly issue: PackIssueRow }) {
  const { timeZone } = useSurroundings();
  const {
    called: name,
    state,
    done,
    of,
    secondsLeft,
    pages,
    issuedBy,
    issuedAt,
    fault,
    faultWords: words,
    endReason,
    told,
  } = issue;
  if (isComing(issue))
    return (
      <span role="status" className="min-w-0 flex-1 basis-60">
        {name} is being made: {done} of {counted(of, 'paper')}
        {secondsLeft !== null && `, ${timeLeftInWords(secondsLeft)} left`}
        <progress value={done} max={of} aria-label={`How far ${name} is`} className="block h-1.5 w-full accent-brine" />
      </span>
    );
  if (state === 'failed')
    return (
      <span role="alert" className="min-w-0 flex-1 basis-60 text-ember-ink">
        {name} was not made. {words === '' ? faultWords[fault ?? 'gaveUp'] : words} Nothing of it was given out.
      </span>
    );
  if (state === 'stopped') return <span className="min-w-0 flex-1 basis-60 text-soft">{name} was stopped</span>;
  return (
    <span className="min-w-0 flex-1 basis-60">
      <IssuedLink
        issueId={issue.id}
        className="inline-flex min-h-[24px] items-center font-medium text-brine-ink hover:underline"
      >
        {name}
      </IssuedLink>
      <span className="block text-sm text-soft">
        {counted(pages ?? 0, 'page')}, by {issuedBy}
        {issuedAt !== null && `, ${dayInWords(issuedAt, timeZone)}`}
        {told !== null && `; ${counted(told.people, 'person', 'people')} told ${dayInWords(told.at, timeZone)}`}
      </span>
      {state === 'withdrawn' && <span className="block text-sm text-ember-ink">Withdrawn: {endReason}</span>}
    </span>
  );
}

function IssueActs({ issue }: { readonly issue: PackIssueRow }) {
  const stop = useAct('pack.stop');
  const tell = useAct('pack.tell');
  const withdraw = useAct('pack.withdraw', { quiet: true });
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState('');
  if (isComing(issue))
    return (
      <Button look="quiet" disabled={stop.isPending} onClick={() => stop.mutate({ issueId: issue.id })}>
        Stop
      </Button>
    );
  if (issue.state !== 'done') return null;
  return (
    <>
      {issue.ofMeeting && (
        <Button
          look={issue.told === null ? 'plain' : 'quiet'}
          aria-label={`Tell those who attend of ${issue.called.toLowerCase()}`}
          disabled={tell.isPending}
          onClick={() =>
            tell.mutate(
              { issueId: issue.id },
              {
                onSuccess: ({ sent, of }) =>
                  say.done(
                    of === 0
                      ? 'Nobody who attends has an account and may see it'
                      : sent === of
                        ? `${counted(sent, 'person is', 'people are')} told by mail`
                        : `${sent} of ${counted(of, 'person', 'people')} told; the other mails could not be sent`,
                  ),
              },
            )
          }
        >
          {tell.isPending ? 'Telling…' : issue.told === null ? 'Tell those who attend' : 'Tell again'}
        </Button>
      )}
      <Button look="quiet" aria-label={`Withdraw ${issue.called.toLowerCase()}`} onClick={() => setAsking(true)}>
        Withdraw…
      </Button>
      {asking && (
        <Dialog
          title={`Withdraw ${issue.called.toLowerCase()}`}
          about="Whoever opens it reads that it is withdrawn, and why. Nobody is given its pages any more. This cannot be undone."
          open
          onClose={() => setAsking(false)}
        >
          <form
            onSubmit={(event) => {
              event.preventDefault();
              withdraw.mutate({ issueId: issue.id, reason }, { onSuccess: () => setAsking(false) });
            }}
          >
            <LongField label="Why" value={reason} maxLength={1000} onChange={({ target }) => setReason(target.value)} />
            {withdraw.error && (
              <p role="alert" className="text-ember-ink">
                {saysOf(withdraw.error)}
              </p>
            )}
            <DialogActs>
              <Button onClick={() => setAsking(false)}>Keep it</Button>
              <Button type="submit" disabled={reason.trim() === '' || withdraw.isPending}>
                Withdraw it
              </Button>
            </DialogActs>
          </form>
        </Dialog>
      )}
    </>
  );
}
