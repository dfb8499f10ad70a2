'use client';

import { useState, type FormEvent } from 'react';
import { saysOf } from '../server/call';
import { Button } from '../kit/button';
import { TextField } from '../kit/field';
import { giveCode, signIn } from './signIn';

/** Address and password, then the code where the account asks for one; `onDone` runs once the person is signed in. */
export function SignInForm({ email: known, onDone }: { readonly email?: string; readonly onDone: () => void }) {
  const [email, setEmail] = useState(known ?? '');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);

  async function submit(event: FormEvent) {
    event.preventDefault();
    if (code === null && (email.trim() === '' || password === ''))
      return setWrong('Both the address and the password are needed.');
    if (code?.trim() === '') return setWrong('The code is needed: six digits, or a recovery code.');
    setBusy(true);
    setWrong(undefined);
    try {
      if (code !== null) await giveCode(code);
      else if ((await signIn(email, password)) === 'code') {
        setCode('');
        return setBusy(false);
      }
      onDone();
    } catch (error) {
      setWrong(saysOf(error));
      setBusy(false);
    }
  }

  const submitButton = (
    <Button type="submit" look="main" className="h-9 w-full justify-center" disabled={busy}>
      Sign in
    </Button>
  );
  if (code !== null)
    return (
      <form onSubmit={(event) => void submit(event)} noValidate>
        <TextField
          label="Code"
          help="The six digits that your code program shows now, or one of your recovery codes."
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
    <form onSubmit={(event) => void submit(event)} noValidate>
      <TextField
        label="E-mail address"
        type="email"
        autoComplete="username"
        required
        value={email}
        onChange={(event) => setEmail(event.target.value)}
      />
      <TextField
        label="Password"
        type="password"
        autoComplete="current-password"
        required
        value={password}
        onChange={(event) => setPassword(event.target.value)}
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
