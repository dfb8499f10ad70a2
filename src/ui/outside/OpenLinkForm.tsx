'use client';

import { useState, type FormEvent } from 'react';
import { Button } from '../kit/button';
import { TextField } from '../kit/field';
import { saysOf } from '../server/call';
import { send } from './send';

/** What someone outside gives to open a link: nothing, a password, a code sent to their address, or both. */
export function OpenLinkForm({
  token,
  needsCode,
  needsPassword,
}: {
  readonly token: string;
  readonly needsCode: boolean;
  readonly needsPassword: boolean;
}) {
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const [sent, setSent] = useState(false);
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const at = `/api/outside/${encodeURIComponent(token)}`;

  async function doing(work: () => Promise<void>) {
    setBusy(true);
    setWrong(undefined);
    await work().catch((error: unknown) => setWrong(saysOf(error)));
    setBusy(false);
  }

  function submit(event: FormEvent) {
    event.preventDefault();
    void doing(async () => {
      await send(`${at}/open`, { password: needsPassword ? password : null, code: needsCode ? code : null });
      window.location.reload();
    });
  }

  return (
    <form onSubmit={submit} noValidate>
      {needsCode && (
        <>
          <p className="mb-2 text-sm">
            {sent
              ? 'A code is on its way to the address that the link was sent to.'
              : 'It is meant for one address. A code goes there, to be typed in here.'}
          </p>
          <Button
            className="mb-3"
            disabled={busy}
            onClick={() => void doing(() => send(`${at}/code`, {}).then(() => setSent(true)))}
          >
            {sent ? 'Send another code' : 'Send me the code'}
          </Button>
          <TextField
            label="Code"
            inputMode="numeric"
            autoComplete="one-time-code"
            className="font-mono"
            value={code}
            onChange={(event) => setCode(event.target.value)}
          />
        </>
      )}
      {needsPassword && (
        <TextField
          label="Password of the link"
          type="password"
          autoComplete="off"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
      )}
      {wrong !== undefined && (
        <p role="alert" className="mb-3 text-sm text-ember-ink">
          {wrong}
        </p>
      )}
      <Button
        type="submit"
        look="main"
        className="h-9 w-full justify-center"
        disabled={busy || (needsPassword && password === '') || (needsCode && code === '')}
      >
        Open it
      </Button>
    </form>
  );
}
