'use client';

import { TZDate } from '@date-fns/tz';
import { addDays, format } from 'date-fns';
import { useWatch } from 'react-hook-form';
import type { InputOf } from '@/core/contract';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField, TextField } from '../kit/field';
import { ShownOnce } from '../kit/shownOnce';
import { blankIsNone, useActForm } from '../forms/useActForm';
import { useSurroundings } from '../surroundings/Surroundings';

/** A month, unless another day is chosen. */
const usualDays = 30;

/** A password of spaces is one, and is refused or taken as such. */
const emptyIsNone = { setValueAs: (raw: unknown) => (raw === '' ? null : raw) };

/** A number is sent as one; what is none is refused in words. */
const numberOrNone = {
  setValueAs: (raw: unknown) => (typeof raw !== 'string' ? raw : raw.trim() === '' ? null : Number(raw)),
};

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
  const { form, submit, answer, isPending, wrong, refused } = useActForm('link.make', {
    on,
    email: null,
    password: null,
    copies: false,
    until: format(addDays(new TZDate(now, timeZone), usualDays), 'yyyy-MM-dd'),
    mostOpenings: null,
    message: '',
  });
  const to = useWatch({ control: form.control, name: 'email' })?.trim() ?? '';

  if (answer) {
    const { link, sent } = answer;
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
        help={form.getValues('password') === null ? undefined : 'Send the password separately from the link.'}
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
          {...form.register('email', blankIsNone)}
          wrong={wrong('email')}
        />
        {to !== '' && <LongField label="Message" {...form.register('message')} wrong={wrong('message')} />}
        <div className="grid grid-cols-2 gap-x-4">
          <TextField label="Last day" type="date" {...form.register('until')} wrong={wrong('until')} />
          <TextField
            label="Maximum openings"
            inputMode="numeric"
            placeholder="no limit"
            {...form.register('mostOpenings', numberOrNone)}
            wrong={wrong('mostOpenings')}
          />
        </div>
        <TextField
          label="Password"
          type="password"
          autoComplete="new-password"
          help="Optional."
          {...form.register('password', emptyIsNone)}
          wrong={wrong('password')}
        />
        <label className="flex items-center gap-2.5">
          <input type="checkbox" {...form.register('copies')} className="size-4 accent-brine" />
          They may take copies
        </label>
        {refused !== undefined && (
          <p role="alert" className="mt-3 text-sm text-ember-ink">
            {refused}
          </p>
        )}
        <DialogActs>
          <Button type="submit" look="main" disabled={isPending}>
            {to === '' ? 'Make the link' : 'Make the link and send it'}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
