'use client';

import { useState } from 'react';
import { dayNumber } from '@/core/calendar/period';
import { writeDay } from '@/core/calendar/typedDay';
import type { PaperReview } from '@/core/reviews/contract';
import { reviewOutcomeWords } from '@/core/reviews/model';
import { rhythmInWords } from '@/core/reviews/standing';
import { Button } from '../kit/button';
import { DueBar } from '../kit/dueBar';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { useAct, useAsk } from '../server/useCall';
import { OwnCycleDialog } from './OwnCycleDialog';
import { ReviewDialog } from './ReviewDialog';

interface Paper {
  readonly id: string;
  readonly title: string;
  readonly versionNumber: number;
}

/** The reviews of one paper in its docket: the next, why, and those that were done. */
export function ReviewPart({ paper }: { readonly paper: Paper }) {
  const { data } = useAsk('review.of', { documentId: paper.id });
  const [dialog, setDialog] = useState<'review' | 'cycle' | null>(null);
  const takeBack = useAct('review.takeBack');
  if (!data) return <p className="text-soft">…</p>;
  const { next, done, cycle } = data;
  return (
    <>
      {cycle === null ? (
        <p className="text-soft">
          {data.from === 'never' ? 'It is not reviewed: that was said of this paper.' : 'No review is due for it.'}
        </p>
      ) : (
        <>
          {next ? (
            <DueBar {...next} warnDays={cycle.warnDays} today={dayNumber(data.today) ?? 0} />
          ) : (
            <p className="text-soft">It is reviewed no more.</p>
          )}
          <p className="text-sm text-soft">{whyInWords(data)}</p>
        </>
      )}
      <div className="mt-1.5 flex flex-wrap gap-2">
        {data.mayReview && (cycle !== null || done.length > 0) && (
          <Button onClick={() => setDialog('review')}>Review…</Button>
        )}
        {data.maySet && (
          <Button look="quiet" onClick={() => setDialog('cycle')}>
            {cycle === null ? 'Set a review…' : 'How often…'}
          </Button>
        )}
      </div>
      {done.length > 0 && (
        <ol className="mt-2 space-y-1">
          {done.map((each) => (
            <li key={each.id} className="text-sm">
              <span className="font-medium">{writeDay(each.day)}</span>, version {each.versionNumber},{' '}
              {reviewOutcomeWords[each.outcome].toLowerCase()}
              {each.replacedBy && (
                <>
                  {': '}
                  <Link href={`/paper/${each.replacedBy.id}`} className="text-brine-ink hover:underline">
                    {each.replacedBy.title}
                  </Link>
                </>
              )}
              <span className="block text-soft">
                {each.by}
                {each.note !== '' && `: ${each.note}`}
                {each.mayTakeBack && (
                  <button
                    type="button"
                    className="ml-2 text-brine-ink hover:underline"
                    onClick={() =>
                      takeBack.mutate({ reviewId: each.id }, { onSuccess: () => say.done('The review is taken back') })
                    }
                  >
                    Take back
                  </button>
                )}
              </span>
            </li>
          ))}
        </ol>
      )}
      {dialog === 'review' && <ReviewDialog paper={paper} onClose={() => setDialog(null)} />}
      {dialog === 'cycle' && <OwnCycleDialog paper={paper} review={data} onClose={() => setDialog(null)} />}
    </>
  );
}

/** Why a paper is reviewed when it is, and by whom. */
function whyInWords({ cycle, from, givenBy, responsible }: PaperReview): string {
  if (cycle === null) return '';
  const often = rhythmInWords(cycle.rhythm);
  const who = responsible === '' ? 'the keepers' : responsible;
  const whence =
    from === 'own'
      ? 'set for this paper'
      : givenBy
        ? `given by ${givenBy.placeName}${givenBy.typeName === null ? '' : ` to ${givenBy.typeName}`}`
        : 'given by its place';
  return `${often.charAt(0).toUpperCase()}${often.slice(1)}, by ${who}; ${whence}.`;
}
