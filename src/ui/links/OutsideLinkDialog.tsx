'use client';

import { useState, type FormEvent } from 'react';
import { TZDate } from '@date-fns/tz';
import { addDays, format } from 'date-fns';
import type { InputOf } from '@/core/contract';
import { Refusal } from '@/core/errors/refusal';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField, TextField } from '../kit/field';
import { ShownOnce } from '../kit/shownOnce';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** A month, unless another day is chosen. */
const usualDays = 30;

/** Makes a link by which someone without an account opens a paper, or what a view shows. */
export function OutsideLinkDialog({
  on,
  name,
  onClose,
}: {
  readonly on: InputOf<'link.make'>['on'];
  readonly name: string;
  readonly onClose: () => void;
}) {
  const { now, timeZone } = useSurroundings();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [copies, setCopies] = useState(false);
  const [until, setUntil] = useState(() => format(addDays(new TZDate(now, timeZone), usualDays), 'yyyy-MM-dd'));
  const [most, setMost] = useState('');
  const [message, setMessage] = useState('');
  const make = useAct('link.make', { quiet: true });
  const fields = make.error instanceof Refusal ? make.error.issue.fields : undefined;
  const wrong = (path: string) => fields?.find((field) => field.path === path)?.says;

  function submit(event: FormEvent) {
    event.preventDefault();
    make.mutate({
      on,
      email: email.trim() === '' ? null : email,
      password: password === '' ? null : password,
      copies,
      until,
      mostOpenings: most.trim() === '' ? null : Number(most),
      message,
    });
  }

  if (make.data) {
    const { link, sent } = make.data;
    const to = email.trim();
    return (
      <ShownOnce
        title="The outside link is made"
        about={
          to === ''
            ? 'It is shown only once. Anyone who has it can open it.'
            : sent
              ? `It has been sent to ${to}, and is shown here only once.`
              : `The message to ${to} could not be sent. The link works: it is shown only once, so copy it and send it yourself.`
        }
        what="link"
        secret={link}
        help={password === '' ? undefined : 'Send the password separately from the link.'}
        onClose={onClose}
      />
    );
  }
  return (
    <Dialog
      title={`Outside link to “${name}”`}
      about={
        on.kind === 'paper'
          ? 'For someone without an account. They see this paper and nothing else.'
          : 'For someone without an account. They see the papers of this view that you manage, as they are when they look.'
      }
      open
      onClose={onClose}
    >
      <form onSubmit={submit} noValidate>
        <TextField
          label="For whom"
          type="email"
          placeholder="name@example.org"
          help="With an address, only someone who can read its mail can open the link. Empty: anyone who has the link."
          value={email}
          onChange={(event) => setEmail(event.target.value)}
          wrong={wrong('email')}
        />
        {email.trim() !== '' && (
          <LongField
            label="Message"
            value={message}
            onChange={(event) => setMessage(event.target.value)}
            wrong={wrong('message')}
          />
        )}
        <div className="grid grid-cols-2 gap-x-4">
          <TextField
            label="Last day"
            type="date"
            value={until}
            onChange={(event) => setUntil(event.target.value)}
            wrong={wrong('until')}
          />
          <TextField
            label="Maximum openings"
            inputMode="numeric"
            placeholder="no limit"
            value={most}
            onChange={(event) => setMost(event.target.value)}
            wrong={wrong('mostOpenings')}
          />
        </div>
        <TextField
          label="Password"
          type="password"
          autoComplete="new-password"
          help="Optional."
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          wrong={wrong('password')}
        />
        <label className="flex items-center gap-2.5">
          <input type="checkbox" checked={copies} onChange={() => setCopies(!copies)} className="size-4 accent-brine" />
          They may take copies
        </label>
        {make.error && !fields && (
          <p role="alert" className="mt-3 text-sm text-ember-ink">
            {saysOf(make.error)}
          </p>
        )}
        <DialogActs>
          <Button type="submit" look="main" disabled={make.isPending}>
            {email.trim() === '' ? 'Make the link' : 'Make the link and send it'}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
