'use client';

import { useState } from 'react';
import { reviewOutcomes, reviewOutcomeWords, type ReviewOutcome } from '@/core/reviews/model';
import { ReferencePick } from '../columns/ReferencePick';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

const aboutOutcome: Readonly<Record<ReviewOutcome, string>> = {
  kept: 'It was looked at and is still right.',
  changed: 'A new version was filed because of the review.',
  replaced: 'It is reviewed no more; the other paper is.',
  notNeeded: 'It is reviewed no more. It stays where it is until somebody disposes of it.',
};

/** Notes a review of a paper. */
export function ReviewDialog({
  paper,
  onClose,
}: {
  readonly paper: { readonly id: string; readonly title: string; readonly versionNumber: number };
  readonly onClose: () => void;
}) {
  const review = useAct('review.done', { quiet: true });
  const takeBack = useAct('review.takeBack');
  const [outcome, setOutcome] = useState<ReviewOutcome>('kept');
  const [note, setNote] = useState('');
  const [replacedBy, setReplacedBy] = useState<{ readonly id: string; readonly name: string } | null>(null);
  const isReady = !review.isPending && (outcome !== 'replaced' || replacedBy !== null);
  return (
    <Dialog
      title={`Review “${paper.title}”`}
      about={`What is noted is of version ${paper.versionNumber}, the one you have looked at.`}
      open
      onClose={onClose}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!isReady) return;
          review.mutate(
            {
              documentId: paper.id,
              versionNumber: paper.versionNumber,
              outcome,
              note: note.trim(),
              replacedById: outcome === 'replaced' ? (replacedBy?.id ?? null) : null,
            },
            {
              onSuccess: ({ reviewId }) => {
                say.undoable(`“${paper.title}” is reviewed`, () => takeBack.mutate({ reviewId }));
                onClose();
              },
            },
          );
        }}
      >
        <fieldset className="mb-3.5">
          <legend className="mb-1 text-sm font-semibold">What it came to</legend>
          {reviewOutcomes.map((each) => (
            <label key={each} className="flex items-baseline gap-2 py-1">
              <input
                type="radio"
                name="outcome"
                checked={outcome === each}
                onChange={() => setOutcome(each)}
                className="accent-brine"
              />
              <span>
                <span className="font-medium">{reviewOutcomeWords[each]}</span>
                <span className="block text-sm text-soft">{aboutOutcome[each]}</span>
              </span>
            </label>
          ))}
        </fieldset>
        {outcome === 'replaced' && (
          <ReferencePick
            kind="document"
            label="Replaced by"
            value={replacedBy}
            instead="Choose the paper"
            onPick={setReplacedBy}
          />
        )}
        <LongField label="Note" value={note} maxLength={2000} onChange={(event) => setNote(event.target.value)} />
        {review.error && (
          <p role="alert" className="mb-2 text-ember-ink">
            {saysOf(review.error)}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={!isReady}>
            Note the review
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
