'use client';

import type { PassedByMe as Passed } from '@/core/access/passed';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { useAct, useAsk } from '../server/useCall';
import { DeskBlock } from './Block';
import type { Frame } from './blockWords';
import { useSurroundings } from '../surroundings/Surroundings';

/** How many are shown before the rest is asked for. */
const firstShown = 4;

/** What the person shared with others, each with a button to withdraw it; empty if nothing was shared. */
export function PassedByMe({ frame }: { readonly frame: Frame }) {
  const { now, timeZone, seenBy } = useSurroundings();
  const { data } = useAsk('passed.byMe', {});
  const withdraw = useAct('access.withdraw');
  const undo = useAct('access.undo');
  if (!data || data.length === 0) return null;
  const takeBack = ({ on, subject, name, to }: Passed) =>
    withdraw.mutate(
      { on, subject },
      {
        onSuccess: ({ entryId }) =>
          say.undoable(`“${name}” is no longer shared with ${to} by you`, () => undo.mutate({ entryId })),
      },
    );
  const line = (passed: Passed) => (
    <li
      key={`${passed.on.id} ${passed.to}`}
      className="flex items-center gap-2 border-b border-line px-3 py-1.5 last:border-0"
    >
      <span className="min-w-0 flex-1">
        <Link href={`/${passed.on.kind}/${passed.on.id}`} className="block truncate font-medium hover:underline">
          {passed.name}
        </Link>
        <span className="block text-sm text-soft">
          to {passed.to},{' '}
          <time dateTime={passed.at} title={momentInWords(passed.at, timeZone)}>
            {whenInWords(passed.at, now, timeZone)}
          </time>
        </span>
      </span>
      {passed.mayWithdraw && seenBy === null && (
        <Button look="quiet" aria-label={`Withdraw ${passed.name} from ${passed.to}`} onClick={() => takeBack(passed)}>
          Withdraw
        </Button>
      )}
    </li>
  );
  return (
    <DeskBlock {...frame}>
      <div className="rounded-sm border border-line bg-sheet">
        <ul>{data.slice(0, firstShown).map(line)}</ul>
        {data.length > firstShown && (
          <details>
            <summary className="cursor-pointer px-3 py-1.5 text-sm text-brine-ink">
              {data.length - firstShown} earlier
            </summary>
            <ul>{data.slice(firstShown).map(line)}</ul>
          </details>
        )}
      </div>
    </DeskBlock>
  );
}
