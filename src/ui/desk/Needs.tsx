'use client';

import { useState } from 'react';
import { dayInWords } from '@/core/calendar/moment';
import { dayNumber } from '@/core/calendar/period';
import { writeDay } from '@/core/calendar/typedDay';
import { dueInWords, stateOfReview } from '@/core/reviews/standing';
import type { OutputOf } from '@/core/contract';
import { clockOf } from '@/core/agenda/timing';
import { wayWords } from '@/core/signoff/words';
import { counted } from '@/core/text/measure';
import { OwedPapers } from '../agenda/OwedPapers';
import { Link } from '../kit/link';
import { IssuedLink } from '../packs/IssuedLink';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { allWith } from './allWith';
import { BlockSheet, DeskBlock } from './Block';
import type { Frame } from './blockWords';
import { MyActions } from './MyActions';

const mostGaps = 3;
const mostReviews = 3;
const mostSignatures = 3;
const mostMeetings = 4;
const mostActions = 4;
const mostOwed = 6;

const stateClass = (due: string, warnDays: number, today: string): string =>
  stateOfReview({ due: dayNumber(due) ?? 0 }, warnDays, dayNumber(today) ?? 0) === 'comingUp'
    ? 'text-soft'
    : 'text-ember-ink';

/** What waits for the person: meetings to come, what they gave them to do, papers that are missing in what they answer for, and values missing in what they filed. */
export function Needs({ frame }: { readonly frame: Frame }) {
  const { me, now, timeZone, seenBy } = useSurroundings();
  const gaps = useAsk('gaps.of', { placeId: null }, { untilCounted: true });
  const { data: lacking } = useAsk('desk.lacking', {});
  const { data: reviews } = useAsk('reviews.mine', {});
  const { data: signOffs } = useAsk('signoff.lines', { whose: 'mine' });
  const { data: meetings } = useAsk('meetings.mine', {});
  const { data: actions } = useAsk('actions.mine', {});
  const { data: owed } = useAsk('agenda.owed', { whose: 'mine' });
  const [shownActions, setShownActions] = useState(mostActions);
  const signatures = signOffs?.filter(({ isMyTurn }) => isMyTurn) ?? [];
  const all = gaps.data?.gaps ?? [];
  const mine = all.filter(({ isMine }) => isMine);
  const { data: backups } = useAsk('backups.made', {}, { enabled: me.keeper && seenBy === null });
  const backup = backups ? backupWords(backups, now, timeZone) : null;
  // A keeper answers for what nobody answers for.
  const nobodys = me.keeper ? all.filter(({ officer }) => officer === null).length : 0;
  if (
    mine.length === 0 &&
    nobodys === 0 &&
    backup === null &&
    [...(lacking ?? []), ...(reviews ?? []), ...(meetings ?? []), ...(actions ?? []), ...(owed ?? []), ...signatures]
      .length === 0
  )
    return gaps.data?.state === 'counted' && lacking && reviews && signOffs && meetings && actions && owed ? (
      <DeskBlock {...frame}>
        <BlockSheet>
          <p className="px-3 py-2 text-soft">Nothing waits for you.</p>
        </BlockSheet>
      </DeskBlock>
    ) : null;
  const line = 'flex min-h-[34px] items-center gap-3 border-b border-line px-3 py-1 last:border-0';
  return (
    <DeskBlock {...frame}>
      <BlockSheet>
        <ul>
          {backup !== null && (
            <li className={line}>
              <Link href="/backups" className="text-ember-ink hover:underline">
                {backup}
              </Link>
            </li>
          )}
          {meetings?.slice(0, mostMeetings).map((each) => (
            <li key={each.meetingId} className={line}>
              <span className="min-w-0 flex-1 truncate">
                <Link href={`/meeting/${each.meetingId}`} className="font-medium hover:underline">
                  {each.title}, {writeDay(each.day)}
                </Link>
                {each.startsAt !== null && <span className="text-soft">, {clockOf(each.startsAt)}</span>}
                {each.issue && (
                  <>
                    {' · '}
                    <IssuedLink issueId={each.issue.id} className="text-brine-ink hover:underline">
                      Pack
                    </IssuedLink>
                  </>
                )}
              </span>
              {each.answer === null ? (
                <Link
                  href={`/meeting/${each.meetingId}?part=people`}
                  className="shrink-0 text-sm text-ember-ink hover:underline"
                >
                  Do you attend?
                </Link>
              ) : (
                <span className="shrink-0 text-sm text-soft">
                  {each.answer === 'coming' ? 'you come' : 'you sent apologies'}
                </span>
              )}
            </li>
          ))}
          <OwedPapers owed={(owed ?? []).slice(0, mostOwed)} line={line} />
          <MyActions actions={(actions ?? []).slice(0, shownActions)} line={line} />
          {(actions ?? []).length > shownActions && (
            <li className={line}>
              <button
                type="button"
                className="text-brine-ink hover:underline"
                onClick={() => setShownActions(Infinity)}
              >
                {counted((actions ?? []).length - shownActions, 'more action', 'more actions')}
              </button>
            </li>
          )}
          {signatures.slice(0, mostSignatures).map((each) => (
            <li key={each.signOffId} className={line}>
              <span className="min-w-0 flex-1 truncate">
                <Link
                  href={`/paper/${each.documentId}?version=${each.versionNumber}`}
                  className="font-medium hover:underline"
                >
                  {each.title}
                </Link>{' '}
                waits for you to {wayWords[each.way]} it, in {each.placeName}
              </span>
              {each.dueOn !== null && (
                <span className={`shrink-0 text-sm ${each.dueOn < each.today ? 'text-ember-ink' : 'text-soft'}`}>
                  {dueInWords(dayNumber(each.dueOn) ?? 0, dayNumber(each.today) ?? 0)}
                </span>
              )}
            </li>
          ))}
          {signatures.length > mostSignatures && (
            <li className={line}>
              <Link href="/signatures" className="text-brine-ink hover:underline">
                {counted(signatures.length - mostSignatures, 'more signature', 'more signatures')}
              </Link>
            </li>
          )}
          {reviews?.slice(0, mostReviews).map(({ documentId, title, placeName, due, warnDays, today }) => (
            <li key={documentId} className={line}>
              <span className="min-w-0 flex-1 truncate">
                <Link href={`/paper/${documentId}`} className="font-medium hover:underline">
                  {title}
                </Link>{' '}
                comes up for review, in {placeName}
              </span>
              <span className={`shrink-0 text-sm ${stateClass(due, warnDays, today)}`}>
                {dueInWords(dayNumber(due) ?? 0, dayNumber(today) ?? 0)}
              </span>
            </li>
          ))}
          {(reviews ?? []).length > mostReviews && (
            <li className={line}>
              <Link href="/duties?view=my-reviews" className="text-brine-ink hover:underline">
                {counted((reviews ?? []).length - mostReviews, 'more review', 'more reviews')}
              </Link>
            </li>
          )}
          {mine.slice(0, mostGaps).map((gap) => (
            <li key={`${gap.expectationId} ${gap.dossierId} ${gap.startYear} ${gap.meetingId}`} className={line}>
              <span className="min-w-0 flex-1 truncate">
                <span className="font-medium">{gap.name}</span> is missing in{' '}
                <Link href={`/place/${gap.dossierId}`} className="hover:underline">
                  {gap.dossier}
                </Link>
                {gap.meeting
                  ? `, meeting of ${writeDay(gap.meeting.day)}`
                  : gap.yearLabel !== null && `, ${gap.yearLabel}`}
              </span>
              <span className="shrink-0 text-sm text-ember-ink">was due {writeDay(gap.due)}</span>
            </li>
          ))}
          {mine.length > mostGaps && (
            <li className={line}>
              <Link href="/gaps" className="text-brine-ink hover:underline">
                {counted(mine.length - mostGaps, 'more paper', 'more papers')} missing in what I answer for
              </Link>
            </li>
          )}
          {nobodys > 0 && (
            <li className={line}>
              <Link href="/gaps" className="hover:underline">
                {counted(nobodys, 'paper')} missing where nobody answers for it
              </Link>
            </li>
          )}
          {lacking?.map(({ columnId, name, papers }) => (
            <li key={columnId} className={line}>
              <Link
                href={allWith([
                  { of: 'filedBy', who: ['me'] },
                  { of: columnId, filled: false },
                ])}
                className="hover:underline"
              >
                {name} is missing on {counted(papers, 'paper')} that I filed
              </Link>
            </li>
          ))}
        </ul>
      </BlockSheet>
    </DeskBlock>
  );
}

/** After so many days a backup is old, where the library makes none by itself more often. */
const oldDays = 7;

/** What a keeper is told of the backups; null where all is well. */
function backupWords({ backups, everyDays }: OutputOf<'backups.made'>, now: string, timeZone: string): string | null {
  const [last] = backups;
  if (!last) return 'No backup of the library has been made yet';
  if (last.damaged > 0) return 'The last backup found damaged content in the library';
  const days = (Date.parse(now) - Date.parse(last.takenAt)) / 86_400_000;
  return days > Math.max(oldDays, 2 * (everyDays ?? 0))
    ? `The last backup is of ${dayInWords(last.takenAt, timeZone)}`
    : null;
}
