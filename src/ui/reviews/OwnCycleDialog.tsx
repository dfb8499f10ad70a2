'use client';

import { useState } from 'react';
import type { PaperReview } from '@/core/reviews/contract';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { CycleFields, cycleFrom, draftOf, newCycle } from './CycleFields';

/** Says of one paper how often it is reviewed. */
export function OwnCycleDialog({
  paper,
  review,
  onClose,
}: {
  readonly paper: { readonly id: string; readonly title: string };
  readonly review: PaperReview;
  readonly onClose: () => void;
}) {
  const set = useAct('review.setOwn', { quiet: true });
  const [says, setSays] = useState<'places' | 'own' | 'never'>(
    review.from === 'own' || review.from === 'never' ? review.from : review.cycle === null ? 'own' : 'places',
  );
  const [draft, setDraft] = useState(review.cycle === null ? newCycle : draftOf(review.cycle, review.responsible));
  return (
    <Dialog title={`How “${paper.title}” is reviewed`} open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          set.mutate(
            {
              documentId: paper.id,
              cycle: says === 'places' ? null : says === 'never' ? 'never' : cycleFrom(draft),
              revision: review.revision,
            },
            {
              onSuccess: () => {
                say.done('Saved');
                onClose();
              },
            },
          );
        }}
      >
        <ChoiceField
          label="What counts for it"
          value={says}
          onChange={(event) => setSays(event.target.value as typeof says)}
        >
          <option value="places">What its places say</option>
          <option value="own">A cycle of its own</option>
          <option value="never">It is not reviewed</option>
        </ChoiceField>
        {says === 'own' && <CycleFields draft={draft} onChange={setDraft} />}
        {set.error && (
          <p role="alert" className="mb-2 text-ember-ink">
            {saysOf(set.error)}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={set.isPending}>
            Save
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
