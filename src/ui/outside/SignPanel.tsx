'use client';

import { useState } from 'react';
import type { AskedOutside, OutsideAnswer } from '@/core/signoff/contract';
import type { Drawn } from '@/core/signoff/model';
import { wayWords } from '@/core/signoff/words';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField, TextField } from '../kit/field';
import { saysOf } from '../server/call';
import { DrawName } from './DrawName';
import { send } from './send';

/** What somebody outside is asked, over the version that they are asked about; and their answer. */
export function SignPanel({
  token,
  title,
  asked,
}: {
  readonly token: string;
  readonly title: string;
  readonly asked: AskedOutside;
}) {
  const [dialog, setDialog] = useState<'agreed' | 'declined' | null>(null);
  const verb = wayWords[asked.way];
  return (
    <section
      aria-label="You are asked to sign"
      className="no-print flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-straw-edge bg-straw px-4 py-2 text-straw-ink"
    >
      {asked.standing === 'myTurn' ? (
        <>
          <p className="min-w-0 flex-1 basis-64">
            <span className="font-semibold">
              {asked.askedBy} asks you, {asked.name}, to {verb} this paper.
            </span>{' '}
            <span className="break-words">{asked.wording}</span>
          </p>
          <Button onClick={() => setDialog('agreed')}>{asked.way === 'approve' ? 'Approve…' : 'Sign…'}</Button>
          <Button look="quiet" onClick={() => setDialog('declined')}>
            Decline…
          </Button>
        </>
      ) : (
        <p role="status" className="font-semibold">
          {standingWords(asked)}
        </p>
      )}
      {dialog !== null && (
        <SignDialog token={token} title={title} asked={asked} answer={dialog} onClose={() => setDialog(null)} />
      )}
    </section>
  );
}

function standingWords({ standing, answer, way }: AskedOutside): string {
  if (standing === 'later') return 'You will be asked once those before you have answered.';
  if (standing === 'over') return 'This has come to an end. Nothing is asked of you any more.';
  if (answer === 'agreed') return `Thank you. You have ${way === 'approve' ? 'approved' : 'signed'} this version.`;
  return answer === 'declined' ? 'You have declined. Whoever asked you was told.' : 'Nothing is asked of you any more.';
}

function SignDialog({
  token,
  title,
  asked,
  answer,
  onClose,
}: {
  readonly token: string;
  readonly title: string;
  readonly asked: AskedOutside;
  readonly answer: 'agreed' | 'declined';
  readonly onClose: () => void;
}) {
  const [typedName, setTypedName] = useState('');
  const [drawn, setDrawn] = useState<Drawn>([]);
  const [reason, setReason] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const agrees = answer === 'agreed';
  const verb = asked.way === 'approve' ? 'Approve' : 'Sign';
  const isReady = !isBusy && (agrees ? typedName.trim() !== '' || drawn.length > 0 : reason.trim() !== '');
  const given: OutsideAnswer = agrees
    ? { answer: 'agreed', typedName: typedName.trim(), drawn }
    : { answer: 'declined', reason: reason.trim() };
  const submit = async () => {
    setBusy(true);
    setWrong(null);
    await send(`/api/outside/${encodeURIComponent(token)}/sign`, given).then(
      () => window.location.reload(),
      (error: unknown) => {
        setWrong(saysOf(error));
        setBusy(false);
      },
    );
  };
  return (
    <Dialog
      title={`${agrees ? verb : 'Decline'}: “${title}”`}
      about={
        agrees
          ? 'Your name, the time, your address, and from where and with what browser you sign go onto the page of signatures.'
          : `${asked.askedBy} is told why.`
      }
      open
      onClose={onClose}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (isReady) void submit();
        }}
      >
        {agrees ? (
          <>
            <TextField
              label="Your name, typed"
              value={typedName}
              maxLength={120}
              autoComplete="name"
              onChange={(event) => setTypedName(event.target.value)}
            />
            <DrawName drawn={drawn} onDraw={setDrawn} />
            <p className="mt-3 text-sm text-soft">
              One of the two is enough. You sign version {asked.versionNumber}, whose SHA-256 is{' '}
              <span className="font-mono text-xs break-all">{asked.sha256}</span>.
            </p>
          </>
        ) : (
          <LongField
            label="Reason"
            value={reason}
            maxLength={1000}
            onChange={(event) => setReason(event.target.value)}
          />
        )}
        {wrong !== null && (
          <p role="alert" className="mt-2 text-ember-ink">
            {wrong}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={!isReady}>
            {agrees ? verb : 'Decline'}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
