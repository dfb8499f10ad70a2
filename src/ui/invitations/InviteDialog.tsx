'use client';

import { useActForm } from '../forms/useActForm';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { ShownOnce } from '../kit/shownOnce';

/** Invites someone: a link for one use, shown here and written to the outbox. */
export function InviteDialog({
  onClose,
  ...known
}: {
  readonly onClose: () => void;
  readonly name?: string;
  readonly address?: string;
}) {
  const { form, submit, answer, isPending, wrong, refused } = useActForm('person.invite', {
    name: known.name ?? '',
    email: known.address ?? '',
    keeper: false,
  });

  if (answer)
    return (
      <ShownOnce
        title={`${form.getValues('name')} is invited`}
        about="The link works once, within seven days. It has been written to the outbox too."
        what="link"
        secret={answer.link}
        onClose={onClose}
      />
    );
  return (
    <Dialog title="Invite someone" open onClose={onClose}>
      <form onSubmit={submit} noValidate>
        <TextField label="Name" autoFocus {...form.register('name')} wrong={wrong('name')} />
        <TextField label="E-mail address" type="email" {...form.register('email')} wrong={wrong('email') ?? refused} />
        <label className="flex items-center gap-2.5">
          <input type="checkbox" {...form.register('keeper')} className="size-4 accent-brine" />
          As a keeper, who manages all
        </label>
        <DialogActs>
          <Button type="submit" look="main" disabled={isPending}>
            Invite
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
