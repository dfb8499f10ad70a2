'use client';

import { CaretDownIcon, CaretUpIcon, XIcon } from '@phosphor-icons/react';
import { useState } from 'react';
import type { AskedSigner, PaperSignOffs } from '@/core/signoff/contract';
import { mostRemindDays } from '@/core/signoff/model';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { CheckField, ChoiceField, LongField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { Pick } from '../kit/pick';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

type Asked = AskedSigner & { readonly label: string };
const keyOf = (signer: Asked): string => ('personId' in signer ? signer.personId : signer.email);

/** Asks people to sign or approve the current version of a paper. */
export function AskDialog({
  paper,
  signOffs,
  onClose,
}: {
  readonly paper: { readonly id: string; readonly title: string };
  readonly signOffs: PaperSignOffs;
  readonly onClose: () => void;
}) {
  const { data: choices, error } = useAsk('signoff.choices', { documentId: paper.id });
  const ask = useAct('signoff.ask', { quiet: true });
  const [way, setWay] = useState<'sign' | 'approve'>('sign');
  const [signers, setSigners] = useState<readonly Asked[]>([]);
  const [inTurn, setInTurn] = useState(false);
  const [needed, setNeeded] = useState<number | null>(null);
  const [wording, setWording] = useState('');
  const [dueOn, setDueOn] = useState('');
  const [remindDays, setRemindDays] = useState('3');
  const [slot, setSlot] = useState<string | null>(null);
  // Until somebody chooses, what is most likely.
  const chosen = slot ?? (choices?.likely === null || choices === undefined ? '' : String(choices.likely));
  const target = chosen === '' ? null : (choices?.slots[Number(chosen)] ?? null);
  // All of them, once somebody was taken out of the list.
  const enough = needed !== null && needed < signers.length ? needed : null;
  const isReady = !ask.isPending && signers.length > 0;
  const send = () =>
    ask.mutate(
      {
        documentId: paper.id,
        versionNumber: signOffs.currentNumber,
        way,
        signers: signers.map(({ label: _label, ...signer }) => signer),
        inTurn: inTurn && signers.length > 1,
        needed: enough,
        wording: wording.trim(),
        dueOn: dueOn === '' ? null : dueOn,
        remindDays: dueOn === '' ? 0 : Math.min(mostRemindDays, Math.max(0, Number(remindDays) || 0)),
        slot: target?.slot ?? null,
      },
      {
        onSuccess: ({ notReached }) => {
          if (notReached.length > 0)
            say.refusal(`It is asked for, but no message could be sent to ${notReached.join(', ')}.`);
          else say.done(`${counted(signers.length, 'person is', 'people are')} asked to ${way} “${paper.title}”`);
          onClose();
        },
      },
    );
  return (
    <Dialog
      title={`Ask for signatures on “${paper.title}”`}
      about={`They are for version ${signOffs.currentNumber} alone: a later version has none of them.`}
      open
      shape="wide"
      onClose={onClose}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (isReady) send();
        }}
      >
        <fieldset className="mb-3.5">
          <legend className="mb-1 text-sm font-semibold">What they are asked to do</legend>
          <span className="flex gap-5">
            {(['sign', 'approve'] as const).map((each) => (
              <label key={each} className="flex items-baseline gap-2">
                <input
                  type="radio"
                  name="way"
                  checked={way === each}
                  onChange={() => setWay(each)}
                  className="accent-brine"
                />
                {each === 'sign' ? 'Sign it' : 'Approve it'}
              </label>
            ))}
          </span>
        </fieldset>
        <SignerList people={choices?.people ?? []} signers={signers} onChange={setSigners} />
        {signers.length > 1 && (
          <div className="grid gap-x-4 sm:grid-cols-2">
            <ChoiceField
              label="How many have to"
              value={enough ?? ''}
              onChange={(event) => setNeeded(event.target.value === '' ? null : Number(event.target.value))}
            >
              <option value="">All of them</option>
              {signers.slice(0, -1).map((each, at) => (
                <option key={keyOf(each)} value={at + 1}>
                  {at + 1} of {signers.length}
                </option>
              ))}
            </ChoiceField>
            <div className="sm:pt-6">
              <CheckField
                label="One after the other"
                help="Each is asked once those above have answered."
                checked={inTurn}
                onChange={setInTurn}
              />
            </div>
          </div>
        )}
        <LongField
          label="What you ask of them"
          value={wording}
          maxLength={2000}
          rows={2}
          help="It stands on the page of signatures: “As agreed at the meeting of 14 July.”"
          onChange={(event) => setWording(event.target.value)}
        />
        <div className="grid gap-x-4 sm:grid-cols-2">
          <TextField label="By" type="date" value={dueOn} onChange={(event) => setDueOn(event.target.value)} />
          {dueOn !== '' && (
            <TextField
              label="Reminded so many days before"
              type="number"
              min={0}
              max={mostRemindDays}
              value={remindDays}
              help="And again on the day, and the day after."
              onChange={(event) => setRemindDays(event.target.value)}
            />
          )}
        </div>
        <ChoiceField
          label="The signed copy"
          value={chosen}
          onChange={(event) => setSlot(event.target.value)}
          help={
            target === null
              ? 'It is sealed, locked, and filed beside the paper.'
              : `It is sealed, locked, and files itself in ${target.placeName}, where the plan expects it. Whoever may open that place may see it.`
          }
        >
          <option value="">Filed beside the paper</option>
          {choices?.slots.map((each, at) => (
            <option key={`${each.slot.expectationId} ${each.slot.meetingId ?? each.slot.startYear ?? ''}`} value={at}>
              Is the expected paper: {each.words}
            </option>
          ))}
        </ChoiceField>
        {(ask.error ?? error) && (
          <p role="alert" className="mb-2 text-ember-ink">
            {saysOf(ask.error ?? error)}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={!isReady}>
            {signers.length === 0 ? 'Ask them' : `Ask ${counted(signers.length, 'person', 'people')}`}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}

/** Who is asked, in order, with what adds, moves and takes out. */
function SignerList({
  people,
  signers,
  onChange,
}: {
  readonly people: readonly { readonly id: string; readonly name: string }[];
  readonly signers: readonly Asked[];
  readonly onChange: (signers: readonly Asked[]) => void;
}) {
  const [isOutside, setOutside] = useState(false);
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const picked = new Set(signers.map(keyOf));
  const found = people.filter(({ id }) => !picked.has(id));
  const move = (at: number, by: 1 | -1) => {
    const next = [...signers];
    const [moved] = next.splice(at, 1);
    if (moved) next.splice(at + by, 0, moved);
    onChange(next);
  };
  const canAdd = name.trim() !== '' && /^\S+@\S+$/u.test(email.trim()) && !picked.has(email.trim());
  const addOutside = () => {
    if (!canAdd) return;
    onChange([...signers, { name: name.trim(), email: email.trim(), label: `${name.trim()}, ${email.trim()}` }]);
    setName('');
    setEmail('');
    setOutside(false);
  };
  return (
    <fieldset className="mb-3.5">
      <legend className="mb-1 text-sm font-semibold">Who is asked</legend>
      {signers.length > 0 && (
        <ol className="mb-2 border border-line">
          {signers.map((each, at) => (
            <li
              key={keyOf(each)}
              className="flex min-h-[32px] items-center gap-2 border-b border-line px-2.5 last:border-b-0"
            >
              <span className="figures w-5 text-soft">{at + 1}</span>
              <span className="min-w-0 flex-1 truncate">{each.label}</span>
              <Button
                look="quiet"
                className="!px-1"
                aria-label={`${each.label}: earlier`}
                disabled={at === 0}
                onClick={() => move(at, -1)}
              >
                <CaretUpIcon size={13} weight="bold" aria-hidden />
              </Button>
              <Button
                look="quiet"
                className="!px-1"
                aria-label={`${each.label}: later`}
                disabled={at === signers.length - 1}
                onClick={() => move(at, 1)}
              >
                <CaretDownIcon size={13} weight="bold" aria-hidden />
              </Button>
              <Button
                look="quiet"
                className="!px-1"
                aria-label={`Take ${each.label} out`}
                onClick={() => onChange(signers.filter((_one, other) => other !== at))}
              >
                <XIcon size={13} weight="bold" aria-hidden />
              </Button>
            </li>
          ))}
        </ol>
      )}
      <div className="flex flex-wrap items-center gap-2">
        <Pick
          label="Add a person"
          shown="Add a person"
          items={found}
          picked={[]}
          onPick={(id) => {
            const person = people.find((each) => each.id === id);
            if (person) onChange([...signers, { personId: person.id, label: person.name }]);
          }}
          className="h-[30px] rounded-sm border border-line bg-sheet px-3 hover:border-edge"
        />
        {!isOutside && (
          <Button look="quiet" onClick={() => setOutside(true)}>
            Somebody without an account
          </Button>
        )}
      </div>
      {isOutside && (
        <div className="mt-2 border border-line px-3 pt-2.5 pb-3">
          <p className="mb-2 text-sm text-soft">
            They get a link to this version, prove the address by a code, and sign by typing or drawing their name.
          </p>
          <div className="grid gap-x-4 sm:grid-cols-2">
            <TextField label="Name" value={name} maxLength={120} onChange={(event) => setName(event.target.value)} />
            <TextField
              label="E-mail"
              type="email"
              value={email}
              maxLength={200}
              onChange={(event) => setEmail(event.target.value)}
            />
          </div>
          <span className="flex gap-2">
            <Button disabled={!canAdd} onClick={addOutside}>
              Add
            </Button>
            <Button look="quiet" onClick={() => setOutside(false)}>
              Cancel
            </Button>
          </span>
        </div>
      )}
    </fieldset>
  );
}
