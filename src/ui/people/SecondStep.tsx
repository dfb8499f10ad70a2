'use client';

import { useQueryClient } from '@tanstack/react-query';
import { QRCodeSVG } from 'qrcode.react';
import { useState, type FormEvent } from 'react';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { beginSecondStep, dropSecondStep, giveCode, newRecoveryCodes } from '../session/signIn';
import { AccountPart } from './AccountPart';

type Act = 'on' | 'off' | 'codes';

const acts: Readonly<Record<Act, { title: string; button: string; about: string }>> = {
  on: {
    title: 'Turn on two-step sign-in',
    button: 'Continue',
    about: 'First your password, so that nobody else does this in your place.',
  },
  off: {
    title: 'Turn off two-step sign-in',
    button: 'Turn off',
    about: 'From then on the password alone opens your account.',
  },
  codes: {
    title: 'New recovery codes',
    button: 'Make new codes',
    about: 'Your present codes will stop working.',
  },
};

/** The second step of signing in: a code from a program on a telephone. */
export function SecondStep({ on, codesLeft }: { readonly on: boolean; readonly codesLeft: number }) {
  const [act, setAct] = useState<Act | null>(null);
  return (
    <AccountPart title="Two-step sign-in">
      <p className="mb-3">
        {on
          ? `On: after the password, a code from your telephone. ${counted(codesLeft, 'recovery code')} left.`
          : 'Off. With it, a stolen password opens nothing: after the password, signing in asks for a code that an app on your telephone shows.'}
      </p>
      <div className="flex flex-wrap gap-2">
        {!on && <Button onClick={() => setAct('on')}>Turn on</Button>}
        {on && <Button onClick={() => setAct('codes')}>New recovery codes</Button>}
        {on && <Button onClick={() => setAct('off')}>Turn off</Button>}
      </div>
      {act && <SecondStepDialog act={act} onClose={() => setAct(null)} />}
    </AccountPart>
  );
}

type Step = { kind: 'password' } | { kind: 'scan'; address: string; codes: readonly string[] } | CodesStep;
interface CodesStep {
  readonly kind: 'codes';
  readonly codes: readonly string[];
}

function SecondStepDialog({ act, onClose }: { readonly act: Act; readonly onClose: () => void }) {
  const queries = useQueryClient();
  const [step, setStep] = useState<Step>({ kind: 'password' });
  const [typed, setTyped] = useState('');
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const { title, button, about } = acts[act];

  /** What follows the step at hand; null where all is done. */
  async function next(): Promise<Step | null> {
    if (step.kind === 'scan') {
      await giveCode(typed);
      return { kind: 'codes', codes: step.codes };
    }
    if (act === 'on') return { kind: 'scan', ...(await beginSecondStep(typed)) };
    if (act === 'codes') return { kind: 'codes', codes: await newRecoveryCodes(typed) };
    await dropSecondStep(typed);
    return null;
  }

  async function submit(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    setWrong(undefined);
    try {
      const after = await next();
      setTyped('');
      await queries.invalidateQueries();
      if (after) setStep(after);
      else {
        say.done('Two-step sign-in is off');
        onClose();
      }
    } catch (error) {
      setWrong(saysOf(error));
    }
    setBusy(false);
  }

  if (step.kind === 'codes') return <Codes codes={step.codes} onClose={onClose} />;
  return (
    <Dialog
      title={title}
      about={step.kind === 'password' ? about : 'Scan this with your authenticator app.'}
      open
      onClose={onClose}
    >
      <form onSubmit={(event) => void submit(event)} noValidate>
        {step.kind === 'scan' && <Scan address={step.address} />}
        {step.kind === 'password' ? (
          <TextField
            key="password"
            label="Password"
            type="password"
            autoComplete="current-password"
            autoFocus
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            wrong={wrong}
          />
        ) : (
          <TextField
            key="code"
            label="The six digits it shows"
            autoComplete="one-time-code"
            inputMode="numeric"
            autoFocus
            className="font-mono"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            wrong={wrong}
          />
        )}
        <DialogActs>
          <Button type="submit" look="main" disabled={busy || typed === ''}>
            {step.kind === 'scan' ? 'Turn on' : button}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}

/** The secret as a picture for a camera, and as letters for typing (key URI with Base32, RFC 4648). */
function Scan({ address }: { readonly address: string }) {
  const secret = new URL(address).searchParams.get('secret') ?? '';
  return (
    <div className="mb-4 flex flex-wrap items-start gap-4">
      <div className="border border-line bg-white p-2">
        <QRCodeSVG value={address} size={168} title="Code to scan" />
      </div>
      <div className="min-w-0 flex-1">
        <p className="text-sm">Without a camera, type this key into it:</p>
        <p data-secret className="mt-1 font-mono text-sm">
          {secret.match(/.{1,4}/gu)?.join(' ')}
        </p>
        <p className="mt-2 text-sm text-soft">Time-based, six digits, thirty seconds.</p>
      </div>
    </div>
  );
}

function Codes({ codes, onClose }: Omit<CodesStep, 'kind'> & { readonly onClose: () => void }) {
  const text = `${codes.join('\n')}\n`;
  return (
    <Dialog
      title="Your recovery codes"
      about="Each works once, without the telephone. They are shown only once: keep them in a safe place."
      open
      onClose={onClose}
    >
      <ul aria-label="Recovery codes" className="mb-3 grid grid-cols-2 gap-x-6 gap-y-1 font-mono">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <DialogActs>
        <Button
          look="main"
          onClick={() => void navigator.clipboard.writeText(text).then(() => say.done('The codes are copied'))}
        >
          Copy the codes
        </Button>
        <a
          href={`data:text/plain;charset=utf-8,${encodeURIComponent(text)}`}
          download="Recovery codes.txt"
          className="inline-flex h-[30px] items-center rounded-sm border border-line bg-sheet px-3 hover:border-edge"
        >
          Save as a file
        </a>
        <Button onClick={onClose}>I have kept them</Button>
      </DialogActs>
    </Dialog>
  );
}
