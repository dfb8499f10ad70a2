'use client';

import { useState, type FormEvent } from 'react';
import { passwordMinLength, passwordSchema } from '@/core/people/password';
import { Button } from '../kit/button';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { changePassword, signOutEverywhere } from '../session/signIn';
import { useSurroundings } from '../shell/Surroundings';

/** A person's own account: the password, and ending all sessions. */
export function AccountPage() {
  const { me } = useSurroundings();
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
      setWrong({ current: saysOf(error) });
    }
    setBusy(false);
  }

  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
      <h1 className="font-condensed text-xl">My account</h1>
      <p className="mb-4 text-soft">
        {me.name}, {me.email}
        {me.keeper && ', keeper'}
      </p>
      <div className="grid max-w-[900px] gap-6 md:grid-cols-2">
        <form
          onSubmit={(event) => void submit(event)}
          noValidate
          className="rounded-sm border border-line bg-sheet px-5 py-4"
        >
          <h2 className="mb-2 font-condensed">Change the password</h2>
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
            help={`At least ${passwordMinLength} characters: a few words in a row do well.`}
            value={next}
            onChange={(event) => setNext(event.target.value)}
            wrong={wrong.next}
          />
          <Button type="submit" look="main" disabled={busy || current === '' || next === ''}>
            Change the password
          </Button>
        </form>
        <section className="rounded-sm border border-line bg-sheet px-5 py-4">
          <h2 className="mb-2 font-condensed">Sessions</h2>
          <p className="mb-3 text-soft">Ends every session of yours, on this computer and all others.</p>
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
        </section>
      </div>
    </main>
  );
}
