'use client';

import type { ReviewCycle } from '@/core/reviews/model';
import { ReferencePick } from '../columns/ReferencePick';
import { ChoiceField, TextField } from '../kit/field';

/** A cycle while it is typed. */
export interface CycleDraft {
  readonly how: 'months' | 'years' | 'rule';
  readonly every: string;
  readonly rule: string;
  /** '' where it is counted from the last review. */
  readonly firstOn: string;
  readonly warnDays: string;
  readonly responsible: { readonly id: string; readonly name: string } | null;
}

/** How a new cycle begins. */
export const newCycle: CycleDraft = {
  how: 'years',
  every: '2',
  rule: 'FREQ=YEARLY;BYMONTH=4;BYDAY=1MO',
  firstOn: '',
  warnDays: '30',
  responsible: null,
};

/** A cycle as it is typed anew. @param responsible the name of who answers for it */
export function draftOf({ rhythm, firstOn, warnDays, responsibleId }: ReviewCycle, responsible: string): CycleDraft {
  const months = 'everyMonths' in rhythm ? rhythm.everyMonths : 0;
  const inYears = months > 0 && months % 12 === 0;
  return {
    how: 'rule' in rhythm ? 'rule' : inYears ? 'years' : 'months',
    every: 'rule' in rhythm ? newCycle.every : String(inYears ? months / 12 : months),
    rule: 'rule' in rhythm ? rhythm.rule : newCycle.rule,
    firstOn: firstOn ?? '',
    warnDays: String(warnDays),
    responsible: responsibleId === null ? null : { id: responsibleId, name: responsible },
  };
}

/** The cycle that was typed; what is no number is refused by the server at its field. */
export const cycleFrom = ({ how, every, rule, firstOn, warnDays, responsible }: CycleDraft): ReviewCycle => ({
  rhythm: how === 'rule' ? { rule: rule.trim() } : { everyMonths: Number(every) * (how === 'years' ? 12 : 1) },
  firstOn: firstOn === '' ? null : firstOn,
  warnDays: Number(warnDays),
  responsibleId: responsible?.id ?? null,
});

/** The fields of a review cycle. */
export function CycleFields({
  draft,
  onChange,
}: {
  readonly draft: CycleDraft;
  readonly onChange: (draft: CycleDraft) => void;
}) {
  const set = (part: Partial<CycleDraft>) => onChange({ ...draft, ...part });
  return (
    <>
      <div className="grid grid-cols-2 gap-x-3">
        {draft.how === 'rule' ? (
          <TextField
            label="Rule"
            value={draft.rule}
            maxLength={200}
            onChange={(event) => set({ rule: event.target.value })}
            className="font-mono"
          />
        ) : (
          <TextField
            label="Every"
            type="number"
            min={1}
            required
            value={draft.every}
            onChange={(event) => set({ every: event.target.value })}
          />
        )}
        <ChoiceField
          label="How it comes round"
          value={draft.how}
          onChange={(event) => set({ how: event.target.value as CycleDraft['how'] })}
        >
          <option value="years">years</option>
          <option value="months">months</option>
          <option value="rule">by a rule of RFC 5545</option>
        </ChoiceField>
        <TextField
          label="First review on"
          type="date"
          value={draft.firstOn}
          onChange={(event) => set({ firstOn: event.target.value })}
          help="Empty: counted from the last review, or from the filing."
        />
        <TextField
          label="Announced, days before"
          type="number"
          min={0}
          max={366}
          required
          value={draft.warnDays}
          onChange={(event) => set({ warnDays: event.target.value })}
        />
      </div>
      <ReferencePick
        kind="person"
        label="Who reviews"
        value={draft.responsible}
        instead="The keepers"
        onPick={(responsible) => set({ responsible })}
      />
    </>
  );
}
