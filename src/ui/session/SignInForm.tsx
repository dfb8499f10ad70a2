'use client';

import { useState, type FormEvent } from 'react';
import { saysOf } from '../server/call';
import { Button } from '../kit/button';
import { TextField } from '../kit/field';
import { useReady } from '../kit/useReady';
import { giveCode, signIn } from './signIn';

/**
 * Asks for address and password, then for the code if the account needs one; `onDone` runs once the person is signed in.
 * The fields keep their own text, so that what someone types before the page reacts is not lost.
 */
export function SignInForm({ email: known, onDone }: { readonly email?: string; readonly onDone: () => void }) {
  const [email, setEmail] = useState(known ?? '');
  const [code, setCode] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const ready = useReady();

  async function attempt(step: () => Promise<'in' | 'code'>) {
    setBusy(true);
    setWrong(undefined);
    try {
      if ((await step()) === 'in') return onDone();
      setCode('');
    } catch (error) {
      setWrong(saysOf(error));
    }
    setBusy(false);
  }

  function submitPassword(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const typed = new FormData(event.currentTarget);
    const [address, password] = [String(typed.get('email') ?? ''), String(typed.get('password') ?? '')];
    if (address.trim() === '' || password === '') return setWrong('Both the address and the password are needed.');
    setEmail(address);
    void attempt(() => signIn(address, password));
  }

  function submitCode(event: FormEvent) {
    event.preventDefault();
    const typed = code ?? '';
    if (typed.trim() === '') return setWrong('The code is needed: six digits, or a recovery code.');
    void attempt(() => giveCode(typed).then(() => 'in'));
  }

  const submitButton = (
    <Button type="submit" look="main" className="h-9 w-full justify-center" disabled={busy || !ready}>
      Sign in
    </Button>
  );
  if (code !== null)
    return (
      <form onSubmit={submitCode} noValidate>
        <TextField
          label="Code"
          help="The six digits that your authenticator app shows now, or one of your recovery codes."
          autoComplete="one-time-code"
          autoFocus
          spellCheck={false}
          className="font-mono"
          value={code}
          onChange={(event) => setCode(event.target.value)}
          wrong={wrong}
        />
        {submitButton}
        <Button
          look="quiet"
          className="mt-2"
          onClick={() => {
            setCode(null);
            setWrong(undefined);
          }}
        >
          Back to address and password
        </Button>
      </form>
    );
  return (
    <form method="post" onSubmit={submitPassword} noValidate>
      <TextField
        label="E-mail address"
        name="email"
        type="email"
        autoComplete="username"
        required
        defaultValue={email}
      />
      <TextField
        label="Password"
        name="password"
        type="password"
        autoComplete="current-password"
        required
        wrong={wrong}
      />
      {submitButton}
      <p className="mt-3 text-sm">
        <a href="/new-password" className="text-brine-ink underline underline-offset-2">
          Forgotten the password?
        </a>
      </p>
    </form>
  );
}
