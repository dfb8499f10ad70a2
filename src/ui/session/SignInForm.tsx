'use client';

import { useState, type FormEvent } from 'react';
import { saysOf } from '../server/call';
import { Button } from '../kit/button';
import { TextField } from '../kit/field';
import { signIn } from './signIn';

/** Address and password; `onDone` runs once the person is signed in. */
export function SignInForm({ email: known, onDone }: { readonly email?: string; readonly onDone: () => void }) {
  const [email, setEmail] = useState(known ?? '');
  const [password, setPassword] = useState('');
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);

  async function submit(event: FormEvent) {
    event.preventDefault();
    if (email.trim() === '' || password === '') return setWrong('Both the address and the password are needed.');
    setBusy(true);
    setWrong(undefined);
    try {
      await signIn(email, password);
      onDone();
    } catch (error) {
      setWrong(saysOf(error));
      setBusy(false);
    }
  }

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
      <Button type="submit" look="main" className="h-9 w-full justify-center" disabled={busy}>
        Sign in
      </Button>
    </form>
  );
}
