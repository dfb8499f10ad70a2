'use client';

import { TZDate } from '@date-fns/tz';
import { addDays, format } from 'date-fns';
import { useState } from 'react';
import { listOf, readySets, setOf, type ReadySet } from '@/core/access/capability';
import { setInWords } from '@/core/access/words';
import type { TokenRow } from '@/core/people/account';
import { lastDayInWords, whenInWords } from '@/core/calendar/moment';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { ShownOnce } from '../kit/shownOnce';
import { useActForm } from '../forms/useActForm';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { AccountPart } from './AccountPart';

/** Ways in for programs, in one's own name and with no more than each is given. */
export function Tokens({ tokens }: { readonly tokens: readonly TokenRow[] }) {
  const { now, timeZone } = useSurroundings();
  const [making, setMaking] = useState(false);
  const withdraw = useAct('token.withdraw');
  return (
    <AccountPart title="API tokens">
      <p className="mb-2 text-soft">
        A program with a token acts in your name. It can do at most what the token allows, and never more than you can.
      </p>
      <ul className="mb-3 empty:hidden">
        {tokens.map((token) => (
          <li key={token.id} className="flex items-center gap-3 border-b border-line py-1.5 last:border-0">
            <span className="min-w-0 flex-1">
              <span className="block font-medium">{token.name}</span>
              <span className="block text-sm text-soft">
                {setInWords(setOf(token.capabilities))} · until {lastDayInWords(token.expiresAt, timeZone)} ·{' '}
                {token.usedAt === null ? 'never used' : `used ${whenInWords(token.usedAt, now, timeZone)}`}
              </span>
            </span>
            <Button
              aria-label={`Withdraw ${token.name}`}
              onClick={() =>
                withdraw.mutate({ tokenId: token.id }, { onSuccess: () => say.done(`“${token.name}” is withdrawn`) })
              }
            >
              Withdraw
            </Button>
          </li>
        ))}
      </ul>
      <Button onClick={() => setMaking(true)}>New token</Button>
      {making && <TokenDialog onClose={() => setMaking(false)} />}
    </AccountPart>
  );
}

const sets: Readonly<Record<ReadySet, string>> = {
  reader: 'See, and take copies',
  contributor: 'See, take copies, add',
  officer: 'See, take copies, add, amend',
  manager: 'Everything I may do',
};

/** Three months, unless another day is chosen. */
const usualDays = 90;

function TokenDialog({ onClose }: { readonly onClose: () => void }) {
  const { now, timeZone } = useSurroundings();
  const { form, submit, answer, isPending, wrong, refused } = useActForm('token.create', {
    name: '',
    capabilities: listOf(readySets.reader),
    until: format(addDays(new TZDate(now, timeZone), usualDays), 'yyyy-MM-dd'),
  });
  const [set, setSet] = useState<ReadySet>('reader');

  if (answer)
    return (
      <ShownOnce
        title={`The token “${form.getValues('name')}”`}
        about="It is shown only once, and is not stored. Anyone who has it can do what it allows."
        what="token"
        secret={answer.token}
        help="Sent with each request as “Authorization: Bearer …”."
        onClose={onClose}
      />
    );
  return (
    <Dialog title="New token" open onClose={onClose}>
      <form onSubmit={submit} noValidate>
        <TextField label="What it is for" {...form.register('name')} wrong={wrong('name')} />
        <ChoiceField
          label="What it may do"
          value={set}
          onChange={(event) => {
            const next = Object.keys(sets).find((each): each is ReadySet => each === event.target.value) ?? 'reader';
            setSet(next);
            form.setValue('capabilities', listOf(readySets[next]));
          }}
        >
          {Object.entries(sets).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </ChoiceField>
        <TextField label="Its last day" type="date" {...form.register('until')} wrong={wrong('until') ?? refused} />
        <DialogActs>
          <Button type="submit" look="main" disabled={isPending}>
            Make the token
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
