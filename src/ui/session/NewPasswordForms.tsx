'use client';

import { useState, type FormEvent } from 'react';
import { passwordMinLength, passwordSchema } from '@/core/people/password';
import { Button } from '../kit/button';
import { TextField } from '../kit/field';
import { saysOf } from '../server/call';
import { askForNewPassword, renewPassword } from './signIn';

const toSignIn = (
  <a href="/sign-in" className="text-brine-ink underline underline-offset-2">
    Back to sign-in
  </a>
);

/** What every form of one field here does: send it, or say what is wrong. */
function useSent(send: () => Promise<void>) {
  const [wrong, setWrong] = useState<string>();
  const [state, setState] = useState<'open' | 'busy' | 'done'>('open');
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setState('busy');
    setWrong(undefined);
    try {
      await send();
      setState('done');
    } catch (error) {
      setWrong(saysOf(error));
      setState('open');
    }
  };
  return { wrong, state, setWrong, submit };
}

/** Asks for a link to a new password. */
export function AskNewPasswordForm() {
  const [email, setEmail] = useState('');
  const { wrong, state, submit } = useSent(() => askForNewPassword(email));
  if (state === 'done')
    return (
      <>
        <p role="status" className="mb-3">
          If an account has that address, a message with a link is on its way. The link is good for an hour.
        </p>
        {toSignIn}
      </>
    );
  return (
    <form onSubmit={(event) => void submit(event)} noValidate>
      <TextField
        label="E-mail address"
        type="email"
        autoComplete="username"
        value={email}
        onChange={(event) => setEmail(event.target.value)}
        wrong={wrong}
      />
      <Button
        type="submit"
        look="main"
        className="h-9 w-full justify-center"
        disabled={state === 'busy' || email.trim() === ''}
      >
        Send me the link
      </Button>
      <p className="mt-3 text-sm">{toSignIn}</p>
    </form>
  );
}

/** Sets a new password by the link of the message. */
export function NewPasswordForm({ token }: { readonly token: string }) {
  const [password, setPassword] = useState('');
  const { wrong, state, setWrong, submit } = useSent(() => renewPassword(token, passwordSchema.parse(password)));
  if (state === 'done')
    return (
      <>
        <p role="status" className="mb-3">
          The password is changed. All sessions have ended.
        </p>
        {toSignIn}
      </>
    );
  return (
    <form
      onSubmit={(event) => {
        const read = passwordSchema.safeParse(password);
        if (read.success) return void submit(event);
        event.preventDefault();
        setWrong(read.error.issues[0]?.message);
      }}
      noValidate
    >
      <TextField
        label="New password"
        type="password"
        autoComplete="new-password"
        help={`At least ${passwordMinLength} characters: a few words in a row are good.`}
        value={password}
        onChange={(event) => setPassword(event.target.value)}
        wrong={wrong}
      />
      <Button
        type="submit"
        look="main"
        className="h-9 w-full justify-center"
        disabled={state === 'busy' || password === ''}
      >
        Set the password
      </Button>
    </form>
  );
}
