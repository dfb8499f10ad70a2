'use client';

import { byAgo, type PassedToMe as Passed } from '@/core/access/passed';
import { setInWords } from '@/core/access/words';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { useAct, useAsk } from '../server/useCall';
import { DeskBlock } from './Block';
import type { Frame } from './blockWords';
import { useSurroundings } from '../surroundings/Surroundings';

/** What others shared with the person by name, grouped by how long ago; empty if nothing was shared. */
export function PassedToMe({ frame }: { readonly frame: Frame }) {
  const { now, timeZone, seenBy } = useSurroundings();
  const { data } = useAsk('passed.toMe', {});
  const mark = useAct('passed.mark');
  if (!data || data.length === 0) return null;
  const unseen = data.filter((passed) => !passed.seen);
  const takeOut = (passed: Passed) =>
    mark.mutate(
      { on: [passed.on], as: 'takenOut' },
      {
        onSuccess: () =>
          say.undoable(`“${passed.name}” is removed from your list; you can still open it`, () =>
            mark.mutate({ on: [passed.on], as: 'back' }),
          ),
      },
    );
  return (
    <DeskBlock
      {...frame}
      about={unseen.length > 0 && `${unseen.length} not seen yet`}
      acts={
        unseen.length > 1 &&
        seenBy === null && (
          <Button
            look="quiet"
            className="!h-[24px] !px-1"
            onClick={() => mark.mutate({ on: unseen.map((passed) => passed.on), as: 'seen' })}
          >
            Mark all as seen
          </Button>
        )
      }
    >
      <div className="rounded-sm border border-line bg-sheet">
        {byAgo(data, now, timeZone).map(({ ago, rows }) => (
          <div key={ago}>
            <h3 className="border-b border-line bg-fog px-3 py-1 text-sm font-semibold text-soft">{ago}</h3>
            <ul>
              {rows.map((passed) => (
                <li
                  key={`${passed.on.kind} ${passed.on.id}`}
                  className="flex flex-wrap items-center gap-x-3 border-b border-line px-3 py-1.5"
                >
                  <span className="min-w-0 flex-1 basis-64">
                    <Link
                      href={`/${passed.on.kind}/${passed.on.id}`}
                      onClick={() => !passed.seen && seenBy === null && mark.mutate({ on: [passed.on], as: 'seen' })}
                      className={`hover:underline ${passed.seen ? '' : 'font-semibold'}`}
                    >
                      {passed.name}
                    </Link>
                    {!passed.seen && (
                      <span className="ml-2 rounded-sm bg-straw px-1.5 text-xs font-semibold text-straw-ink">
                        not seen
                      </span>
                    )}
                    <span className="block text-sm text-soft">
                      {passed.where && `in ${passed.where.name} · `}you {setInWords(passed.set)}
                    </span>
                  </span>
                  <span className="text-sm text-soft">
                    {passed.by ?? 'The library'},{' '}
                    <time dateTime={passed.at} title={momentInWords(passed.at, timeZone)}>
                      {whenInWords(passed.at, now, timeZone)}
                    </time>
                  </span>
                  {seenBy === null && (
                    <span className="flex gap-1">
                      <Button
                        look="quiet"
                        aria-label={`Mark ${passed.name} as ${passed.seen ? 'not seen' : 'seen'}`}
                        onClick={() => mark.mutate({ on: [passed.on], as: passed.seen ? 'unseen' : 'seen' })}
                      >
                        {passed.seen ? 'Not seen' : 'Seen'}
                      </Button>
                      <Button
                        look="quiet"
                        aria-label={`Remove ${passed.name} from the list`}
                        onClick={() => takeOut(passed)}
                      >
                        Remove
                      </Button>
                    </span>
                  )}
                </li>
              ))}
            </ul>
          </div>
        ))}
      </div>
    </DeskBlock>
  );
}
