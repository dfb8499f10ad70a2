'use client';

import { useState, type FormEvent } from 'react';
import type { DoorLine, SessionRow } from '@/core/people/account';
import { Refusal } from '@/core/errors/refusal';
import { passwordMinLength, passwordSchema } from '@/core/people/password';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { SummaryTimes } from '../follow/SummaryTimes';
import { Button } from '../kit/button';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { changePassword, signOutEverywhere } from '../session/signIn';
import { useSurroundings } from '../surroundings/Surroundings';
import { AccountPart } from './AccountPart';
import { DoorList } from './DoorList';
import { SecondStep } from './SecondStep';
import { Tokens } from './Tokens';

/** A person's own account: password, second step, sessions, tokens, and what happened at its door. */
export function AccountPage() {
  const { me, seenBy } = useSurroundings();
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
      <h1 className="font-condensed text-xl">My account</h1>
      <p className="mb-4 text-soft">
        {me.name}, {me.email}
        {me.keeper && ', keeper'}
      </p>
      {seenBy === null ? <Own /> : <p>Only you can see your account.</p>}
    </main>
  );
}

function Own() {
  const { data, error } = useAsk('account.open', {});
  if (error) return <p role="alert">{saysOf(error)}</p>;
  return (
    <div className="grid max-w-[1080px] grid-cols-[minmax(0,1fr)] items-start gap-5 md:grid-cols-2">
      <ChangePassword />
      {!data && (
        <p aria-busy className="text-soft">
          Loading your account…
        </p>
      )}
      {data && <SecondStep on={data.twoStep} codesLeft={data.codesLeft} />}
      {data && <Sessions sessions={data.sessions} />}
      <AccountPart title="What you follow">
        <SummaryTimes />
      </AccountPart>
      {data && <Tokens tokens={data.tokens} />}
      {data && <Door lines={data.door} />}
    </div>
  );
}

const isInvalid = (error: unknown): boolean => error instanceof Refusal && error.issue.kind === 'invalid';

function ChangePassword() {
  const [current, setCurrent] = useState('');
  const [next, setNext] = useState('');
  const [wrong, setWrong] = useState<{ current?: string; next?: string }>({});
  const [busy, setBusy] = useState(false);

  async function submit(event: FormEvent) {
    event.preventDefault();
    const read = passwordSchema.safeParse(next);
    if (!read.success) return setWrong({ next: read.error.issues[0]?.message ?? '' });
    setBusy(true);
    setWrong({});
    try {
      await changePassword(current, read.data);
      setCurrent('');
      setNext('');
      say.done('The password is changed; all other sessions have ended');
    } catch (error) {
      setWrong(isInvalid(error) ? { next: saysOf(error) } : { current: saysOf(error) });
    }
    setBusy(false);
  }

  return (
    <AccountPart title="Change the password">
      <form onSubmit={(event) => void submit(event)} noValidate>
        <TextField
          label="Password now"
          type="password"
          autoComplete="current-password"
          value={current}
          onChange={(event) => setCurrent(event.target.value)}
          wrong={wrong.current}
        />
        <TextField
          label="New password"
          type="password"
          autoComplete="new-password"
          help={`At least ${passwordMinLength} characters: a few words in a row are good.`}
          value={next}
          onChange={(event) => setNext(event.target.value)}
          wrong={wrong.next}
        />
        <Button type="submit" look="main" disabled={busy || current === '' || next === ''}>
          Change the password
        </Button>
      </form>
    </AccountPart>
  );
}

function Sessions({ sessions }: { readonly sessions: readonly SessionRow[] }) {
  const { now, timeZone } = useSurroundings();
  const end = useAct('session.end');
  return (
    <AccountPart title="Sessions">
      <ul className="mb-3">
        {sessions.map((session) => (
          <li key={session.id} className="flex items-center gap-3 border-b border-line py-1.5 last:border-0">
            <span className="min-w-0 flex-1">
              <span className="block font-medium">{session.browser}</span>
              <span className="block text-sm text-soft">
                {session.address === '' ? '' : `from ${session.address} · `}since{' '}
                <time dateTime={session.startedAt} title={momentInWords(session.startedAt, timeZone)}>
                  {whenInWords(session.startedAt, now, timeZone)}
                </time>
              </span>
            </span>
            {session.current ? (
              <span className="text-sm text-soft">This one</span>
            ) : (
              <Button
                aria-label={`End the session of ${session.browser}`}
                onClick={() =>
                  end.mutate({ sessionId: session.id }, { onSuccess: () => say.done('The session has ended') })
                }
              >
                End it
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Button
        onClick={() =>
          void signOutEverywhere().then(
            () => window.location.assign('/sign-in'),
            (error: unknown) => say.refusal(saysOf(error)),
          )
        }
      >
        Sign out everywhere
      </Button>
    </AccountPart>
  );
}

function Door({ lines }: { readonly lines: readonly DoorLine[] }) {
  return (
    <AccountPart title="Recent sign-ins" wide>
      <p className="mb-2 text-sm text-soft">
        The last twenty sign-in attempts and changes. If one was not yours, change the password and end the sessions.
      </p>
      <DoorList lines={lines} withWho={false} />
    </AccountPart>
  );
}
