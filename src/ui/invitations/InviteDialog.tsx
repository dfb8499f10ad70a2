'use client';

import { useState, type FormEvent } from 'react';
import { Refusal } from '@/core/errors/refusal';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { ShownOnce } from '../kit/shownOnce';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** Invites someone: a link for one use, shown here and written to the outbox. */
export function InviteDialog({
  onClose,
  ...known
}: {
  readonly onClose: () => void;
  readonly name?: string;
  readonly address?: string;
}) {
  const [name, setName] = useState(known.name ?? '');
  const [email, setEmail] = useState(known.address ?? '');
  const [keeper, setKeeper] = useState(false);
  const invite = useAct('person.invite', { quiet: true });
  const fields = invite.error instanceof Refusal ? invite.error.issue.fields : undefined;
  const wrong = (path: string) => fields?.find((field) => field.path === path)?.says;

  function submit(event: FormEvent) {
    event.preventDefault();
    invite.mutate({ name, email, keeper });
  }

  if (invite.data)
    return (
      <ShownOnce
        title={`${name} is invited`}
        about="The link works once, within seven days. It has been written to the outbox too."
        what="link"
        secret={invite.data.link}
        onClose={onClose}
      />
    );
  return (
    <Dialog title="Invite someone" open onClose={onClose}>
      <form onSubmit={submit} noValidate>
        <TextField
          label="Name"
          autoFocus
          value={name}
          onChange={(event) => setName(event.target.value)}
          wrong={wrong('name')}
        />
        <TextField
          label="E-mail address"
          type="email"
          value={email}
          onChange={(event) => setEmail(event.target.value)}
          wrong={wrong('email') ?? (invite.error && !fields ? saysOf(invite.error) : undefined)}
        />
        <label className="flex items-center gap-2.5">
          <input type="checkbox" checked={keeper} onChange={() => setKeeper(!keeper)} className="size-4 accent-brine" />
          As a keeper, who manages all
        </label>
        <DialogActs>
          <Button type="submit" look="main" disabled={invite.isPending}>
            Invite
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
