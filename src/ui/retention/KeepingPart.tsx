'use client';

import { writeDay } from '@/core/calendar/typedDay';
import type { PaperKeeping } from '@/core/retention/contract';
import { keptUntilInWords } from '@/core/retention/keeping';
import { keepingEndWords, keepingStartWords } from '@/core/retention/model';
import { monthsInWords } from '@/core/retention/schedule';
import { useAsk } from '../server/useCall';

/** How long one paper is kept, by which class and why, in its docket; and the holds that it is under. */
export function KeepingPart({ documentId }: { readonly documentId: string }) {
  const { data } = useAsk('retention.of', { documentId });
  const { data: holds } = useAsk('holds.of', { documentId });
  return (
    <>
      {data === null && <p className="text-soft">No retention class speaks of it: it is kept.</p>}
      {data && (
        <>
          <p>
            <span className="font-medium">{data.className}</span>:{' '}
            {data.standing === 'forGood'
              ? 'kept for good'
              : data.standing === 'noStart'
                ? `kept, as it has ${startMissing(data)}`
                : `kept until ${keptUntilInWords(data)}, then ${keepingEndWords[data.end]}`}
            {data.standing === 'over' && <span className="text-ember-ink"> · its time is over</span>}
          </p>
          <p className="text-sm text-soft">{whyInWords(data)}</p>
        </>
      )}
      {holds?.map(({ name, reason }) => (
        <p key={name} className="mt-1.5 border-l-[3px] border-straw-edge bg-straw px-2 py-1 text-straw-ink">
          Under the hold “{name}”: {reason}. It is not destroyed while that stands.
        </p>
      ))}
    </>
  );
}

const startMissing = ({ start }: PaperKeeping): string =>
  start.from === 'closed' ? 'a dossier that is not closed yet' : `no ${start.columnName || 'starting date'}`;

/** From when a paper is kept, which place says so, by what authority, and which other classes keep it less long. */
function whyInWords({ start, months, givenBy, authority, others, standing }: PaperKeeping): string {
  const counted =
    months === null || standing === 'forGood'
      ? ''
      : `${monthsInWords(months)} ${start.from === 'column' ? `from ${start.columnName}` : keepingStartWords[start.from]}${start.day === null ? '' : `, ${writeDay(start.day)}`}. `;
  const whence = givenBy
    ? `Given by ${givenBy.placeName}${givenBy.typeName === null ? '' : ` to ${givenBy.typeName}`}. `
    : 'Given by a place above it. ';
  const by = authority === '' ? '' : `By ${authority}. `;
  return `${counted}${whence}${by}${others.length === 0 ? '' : `The longest counts: ${others.join(', ')} would keep it less long.`}`.trim();
}
