'use client';

import { useDeferredValue, useState } from 'react';
import { faultOf, ruleFields, ruleFieldWords, type RuleCondition } from '@/core/intake/filingRule';
import type { FilingRuleRow, FilingRuleTry } from '@/core/intake/contract';
import { counted } from '@/core/text/measure';
import { useActForm } from '../forms/useActForm';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { CheckField, TextField } from '../kit/field';
import { Link } from '../kit/link';
import type { PickItem } from '../kit/pick';
import { useAsk } from '../server/useCall';
import { Alongside } from './Alongside';
import { RuleValues } from './RuleValues';
import { WhereDialog } from './WhereDialog';

/** A rule that is not kept yet, or one that is changed. */
export type RuleDraft = Omit<FilingRuleRow, 'id' | 'path'> & {
  readonly id: string | null;
  readonly path: readonly string[] | null;
};

/** The conditions of a filing rule, where it files, and what it would have come to. */
export function RuleDialog({ draft, onClose }: { readonly draft: RuleDraft; readonly onClose: () => void }) {
  const [conditions, setConditions] = useState<readonly RuleCondition[]>(draft.conditions);
  const [target, setTarget] = useState(
    draft.placeId === null || draft.path === null ? null : { id: draft.placeId, path: draft.path },
  );
  const [choosing, setChoosing] = useState(false);
  const [told, setTold] = useState<readonly PickItem[]>(draft.people);
  const { id, revision, name, on, title, filesFrom, values, labelIds, tell } = draft;
  const { form, submit, wrong, refused, isPending } = useActForm(
    'filing.keepRule',
    {
      ...{ id, revision, name, on, title, filesFrom, values, labelIds: [...labelIds], tell: [...tell] },
      ...{ conditions: [...conditions], placeId: target?.id ?? '' },
    },
    onClose,
  );
  const isOn = form.watch('on') as boolean;
  const set = (next: readonly RuleCondition[]) => {
    setConditions(next);
    form.setValue('conditions', [...next]);
    form.clearErrors();
  };
  const change = (at: number, part: Partial<RuleCondition>) =>
    set(conditions.map((each, index) => (index === at ? { ...each, ...part } : each)));
  return (
    <Dialog title={id === null ? 'New filing rule' : 'Filing rule'} open onClose={onClose} shape="sheet">
      <form onSubmit={submit} className="flex flex-col gap-3">
        <TextField label="Name" {...form.register('name')} wrong={wrong('name')} autoFocus={name === ''} />
        <fieldset className="flex flex-col gap-1.5">
          <legend className="mb-1 font-condensed">When an arrival</legend>
          {conditions.map((condition, at) => (
            <ConditionLine
              key={at}
              at={at}
              condition={condition}
              isOnly={conditions.length === 1}
              error={wrong(`conditions.${at}` as never)}
              onChange={(part) => change(at, part)}
              onRemove={() => set(conditions.filter((_each, index) => index !== at))}
            />
          ))}
          <Button
            look="quiet"
            className="!px-0 self-start"
            onClick={() => set([...conditions, { field: 'words', text: '' }])}
          >
            And another thing…
          </Button>
        </fieldset>
        <div>
          <p className="font-condensed">then it goes to</p>
          <p className="flex items-center gap-3">
            <span className="min-w-0 flex-1">{target === null ? 'No place yet' : target.path.join(' / ')}</span>
            <Button onClick={() => setChoosing(true)}>{target === null ? 'Choose a place…' : 'Another place…'}</Button>
          </p>
        </div>
        {target !== null && <Tried conditions={conditions} placeId={target.id} />}
        <TextField
          label="and is called"
          help="{number}, {day}, {subject} and {title} are filled in. Left empty, its title stays as it is proposed."
          {...form.register('title')}
          wrong={wrong('title')}
        />
        {target !== null && (
          <RuleValues
            placeId={target.id}
            values={form.watch('values') as Readonly<Record<string, string>>}
            wrong={(column) => wrong(`values.${column}` as never)}
            onValues={(next) => {
              form.setValue('values', next as never);
              form.clearErrors();
            }}
          />
        )}
        <Alongside
          labelIds={form.watch('labelIds') as readonly string[]}
          onLabels={(next) => form.setValue('labelIds', [...next] as never)}
          told={told}
          onTold={(next) => {
            setTold(next);
            form.setValue('tell', next.map((each) => each.id) as never);
          }}
          sharedOnly
        />
        <ByItself
          from={form.watch('filesFrom') as number | null}
          wrong={wrong('filesFrom')}
          onChange={(next) => form.setValue('filesFrom', next as never)}
        />
        <CheckField label="The rule is on" checked={isOn} onChange={(next) => form.setValue('on', next)} />
        {refused && (
          <p role="alert" className="text-ember-ink">
            {refused}
          </p>
        )}
        <DialogActs>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="main" disabled={target === null || isPending}>
            Keep the rule
          </Button>
        </DialogActs>
      </form>
      {choosing && (
        <WhereDialog
          onChoose={(place) => {
            setTarget(place);
            form.setValue('placeId', place.id);
            // Of another place the columns are others.
            form.setValue('values', {} as never);
          }}
          onClose={() => setChoosing(false)}
        />
      )}
    </Dialog>
  );
}

/** What a rule files by itself from on, where nobody has said. In per cent. */
const usualBound = 90;

function ByItself({
  from,
  wrong,
  onChange,
}: {
  readonly from: number | null;
  readonly wrong: string | undefined;
  readonly onChange: (from: number | null) => void;
}) {
  return (
    <div>
      <CheckField
        label="It files by itself, without a person"
        help="With what you may do, and only what it is sure enough of. It is listed for a day, and taken back in one act."
        checked={from !== null}
        onChange={(next) => onChange(next ? usualBound : null)}
      />
      {from !== null && (
        <TextField
          label="How sure of the place, and of every value, at least (in %)"
          inputMode="numeric"
          value={from}
          onChange={({ target }) => onChange(Number(target.value.replaceAll(/\D/gu, '').slice(0, 2)))}
          wrong={wrong}
        />
      )}
    </div>
  );
}

function ConditionLine({
  at,
  condition: { field, text },
  isOnly,
  error,
  onChange,
  onRemove,
}: {
  readonly at: number;
  readonly condition: RuleCondition;
  readonly isOnly: boolean;
  readonly error: string | undefined;
  readonly onChange: (part: Partial<RuleCondition>) => void;
  readonly onRemove: () => void;
}) {
  const count = at + 1;
  return (
    <div>
      <div className="flex gap-2">
        <select
          aria-label={`What condition ${count} looks at`}
          value={field}
          onChange={({ target }) => onChange({ field: target.value as RuleCondition['field'] })}
          className="h-[30px] w-[150px] shrink-0 rounded-sm border border-edge bg-sheet px-2"
        >
          {ruleFields.map((each) => (
            <option key={each} value={each}>
              {ruleFieldWords[each].says}
            </option>
          ))}
        </select>
        <input
          aria-label={`Condition ${count}`}
          aria-invalid={error !== undefined || undefined}
          value={text}
          maxLength={200}
          placeholder={ruleFieldWords[field].form}
          onChange={({ target }) => onChange({ text: target.value })}
          className="h-[30px] min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-2 aria-invalid:border-ember"
        />
        {!isOnly && (
          <Button aria-label={`Remove condition ${count}`} onClick={onRemove}>
            ×
          </Button>
        )}
      </div>
      {error && (
        <p role="alert" className="text-sm text-ember-ink">
          {error}
        </p>
      )}
    </div>
  );
}

/** What the rule would have come to, tried on what was filed. */
function Tried({ conditions, placeId }: { readonly conditions: readonly RuleCondition[]; readonly placeId: string }) {
  const asked = useDeferredValue(conditions);
  const isSound = asked.length > 0 && asked.every((each) => faultOf(each) === null);
  const { data } = useAsk(
    'filing.tryRule',
    { conditions: [...asked], placeId },
    { enabled: isSound, keepPrevious: true },
  );
  return (
    <div role="status" className="rounded-sm border border-line bg-fog px-3 py-2">
      {isSound && data ? (
        <Outcome tried={data} />
      ) : (
        <p className="text-soft">It is tried once its conditions are complete.</p>
      )}
    </div>
  );
}

function Outcome({ tried: { tried, meant, right, others, waiting } }: { readonly tried: FilingRuleTry }) {
  return (
    <>
      <p>
        {tried === 0
          ? 'Nothing has been filed from the intake yet, so it cannot be tried.'
          : meant === 0
            ? `Of ${counted(tried, 'arrival')} that were filed, none looks like this.`
            : `Tried on ${counted(tried, 'arrival')} that were filed: it would have been right for ${right} of ${meant}.`}
        {waiting > 0 && ` ${counted(waiting, 'that waits now looks', 'that wait now look')} like this.`}
      </p>
      {others.length > 0 && (
        <>
          <p className="mt-1 text-sm text-soft">Filed elsewhere:</p>
          <ul className="text-sm">
            {others.map(({ id, subject, sender, dossier }) => (
              <li key={id}>
                <Link href={`/intake?show=done&arrival=${id}`} className="text-brine-ink underline">
                  {subject === '' ? 'No subject' : subject}
                </Link>
                , {sender}: {dossier ?? 'no dossier'}
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
