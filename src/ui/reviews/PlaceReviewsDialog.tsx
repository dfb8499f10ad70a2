'use client';

import { useState } from 'react';
import type { ReviewRuleRow } from '@/core/reviews/contract';
import { rhythmInWords } from '@/core/reviews/standing';
import type { OfType } from '@/core/rules/rules';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { OfTypeField } from '../rules/OfTypeField';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { CycleFields, cycleFrom, draftOf, newCycle } from './CycleFields';

/** How often papers below a place are reviewed: its own rules, and those of the places above. */
export function PlaceReviewsDialog({
  place,
  mayAdd,
  onClose,
}: {
  readonly place: { readonly id: string; readonly name: string };
  readonly mayAdd: boolean;
  readonly onClose: () => void;
}) {
  const { data } = useAsk('reviews.rules', { placeId: place.id });
  const [editing, setEditing] = useState<ReviewRuleRow | 'new' | null>(null);
  const own = data?.filter(({ placeId }) => placeId === place.id) ?? [];
  const above = data?.filter(({ placeId }) => placeId !== place.id) ?? [];
  return (
    <Dialog
      title={`Reviews of papers in ${place.name}`}
      about="Of one paper the nearest place decides, and there a rule for its type before the one for all papers."
      shape="wide"
      open
      onClose={onClose}
    >
      {editing !== null ? (
        <RuleForm
          key={editing === 'new' ? 'new' : editing.id}
          placeId={place.id}
          rule={editing === 'new' ? null : editing}
          onDone={() => setEditing(null)}
        />
      ) : (
        <>
          {!data && <p aria-busy>…</p>}
          {data && own.length === 0 && (
            <p className="text-soft">
              This place says nothing of reviews. A rule makes every paper below it, or every one of a type, come up for
              review in time.
            </p>
          )}
          <ul className="rounded-sm border border-line empty:hidden">
            {own.map((rule) => (
              <RuleLine key={rule.id} rule={rule} onEdit={() => setEditing(rule)} />
            ))}
          </ul>
          {above.length > 0 && (
            <>
              <h3 className="mt-4 mb-1 font-condensed">From places above</h3>
              <ul className="rounded-sm border border-line">
                {above.map((rule) => (
                  <RuleLine key={rule.id} rule={rule} onEdit={null} />
                ))}
              </ul>
            </>
          )}
          <DialogActs>
            {mayAdd && (
              <Button look="main" onClick={() => setEditing('new')}>
                New rule…
              </Button>
            )}
            <Button onClick={onClose}>Close</Button>
          </DialogActs>
        </>
      )}
    </Dialog>
  );
}

function RuleLine({ rule, onEdit }: { readonly rule: ReviewRuleRow; readonly onEdit: (() => void) | null }) {
  const remove = useAct('reviews.removeRule');
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-3 py-2 last:border-0">
      <span className="min-w-0 flex-1">
        <span className="block font-medium">{rule.ofType === null ? 'All papers' : rule.ofType.name}</span>
        <span className="block text-sm text-soft">
          {rhythmInWords(rule.cycle.rhythm)}, by {rule.responsible === '' ? 'the keepers' : rule.responsible}, announced{' '}
          {rule.cycle.warnDays} days before{onEdit === null && `; from ${rule.placeName}`}
        </span>
      </span>
      {onEdit !== null && rule.mayChange && (
        <>
          <Button onClick={onEdit}>Change…</Button>
          <Button
            look="quiet"
            onClick={() =>
              remove.mutate(
                { ruleId: rule.id, revision: rule.revision },
                { onSuccess: () => say.done('The rule is removed. What was reviewed stays noted.') },
              )
            }
          >
            Remove
          </Button>
        </>
      )}
    </li>
  );
}

function RuleForm({
  placeId,
  rule,
  onDone,
}: {
  readonly placeId: string;
  readonly rule: ReviewRuleRow | null;
  readonly onDone: () => void;
}) {
  const set = useAct('reviews.setRule', { quiet: true });
  const [ofType, setOfType] = useState<OfType | null>(
    rule?.ofType ? { columnId: rule.ofType.columnId, termId: rule.ofType.termId } : null,
  );
  const [draft, setDraft] = useState(rule === null ? newCycle : draftOf(rule.cycle, rule.responsible));
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        set.mutate(
          { placeId, ruleId: rule?.id ?? null, ofType, cycle: cycleFrom(draft), revision: rule?.revision ?? 0 },
          { onSuccess: onDone },
        );
      }}
    >
      <OfTypeField placeId={placeId} value={ofType} onChange={setOfType} />
      <CycleFields draft={draft} onChange={setDraft} />
      {set.error && (
        <p role="alert" className="mb-2 text-ember-ink">
          {saysOf(set.error)}
        </p>
      )}
      <DialogActs>
        <Button look="main" type="submit" disabled={set.isPending}>
          Save the rule
        </Button>
        <Button onClick={onDone}>Back</Button>
      </DialogActs>
    </form>
  );
}
