'use client';

import { useState } from 'react';
import type { SignOffRow } from '@/core/signoff/contract';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField, TextField } from '../kit/field';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** Signs, approves or declines one version, with one's password entered again. */
export function AnswerDialog({
  title,
  documentId,
  signOff,
  signerId,
  answer,
  onClose,
}: {
  readonly title: string;
  readonly documentId: string;
  readonly signOff: SignOffRow;
  readonly signerId: string;
  readonly answer: 'agreed' | 'declined';
  readonly onClose: () => void;
}) {
  const [reason, setReason] = useState('');
  const [password, setPassword] = useState('');
  const act = useAct('signoff.answer', { quiet: true });
  const isDeclined = answer === 'declined';
  const verb = signOff.way === 'approve' ? 'Approve' : 'Sign';
  const isReady = !act.isPending && password !== '' && (!isDeclined || reason.trim() !== '');
  return (
    <Dialog
      title={`${isDeclined ? 'Decline' : verb} version ${signOff.versionNumber} of “${title}”`}
      about={
        isDeclined
          ? `${signOff.askedBy} is told why.`
          : `Asked by ${signOff.askedBy}. Your name, the time and this version’s SHA-256 go onto the page of signatures.`
      }
      open
      onClose={onClose}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!isReady) return;
          act.mutate(
            { signerId, answer, reason: reason.trim(), password },
            {
              onSuccess: () => {
                say.done(
                  isDeclined
                    ? `You have declined “${title}”`
                    : `You have ${verb === 'Sign' ? 'signed' : 'approved'} “${title}”`,
                );
                onClose();
              },
              onError: () => setPassword(''),
            },
          );
        }}
      >
        {signOff.wording !== '' && (
          <blockquote className="mb-3.5 border-l-2 border-line pl-3 break-words">{signOff.wording}</blockquote>
        )}
        <p className="mb-3.5 text-sm">
          <Link
            href={`/paper/${documentId}?version=${signOff.versionNumber}`}
            className="text-brine-ink hover:underline"
          >
            Read version {signOff.versionNumber}
          </Link>
          <span className="block font-mono text-xs break-all text-soft">SHA-256 {signOff.sha256}</span>
        </p>
        {isDeclined && (
          <LongField
            label="Reason"
            value={reason}
            maxLength={1000}
            onChange={(event) => setReason(event.target.value)}
          />
        )}
        <TextField
          label="Your password, once more"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          help="It proves that it is you."
        />
        {act.error && (
          <p role="alert" className="mb-2 text-ember-ink">
            {saysOf(act.error)}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={!isReady}>
            {isDeclined ? 'Decline' : verb}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
