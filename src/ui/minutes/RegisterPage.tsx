'use client';

import { parseAsBoolean, parseAsInteger, parseAsString, parseAsStringLiteral, useQueryState } from 'nuqs';
import { useDeferredValue } from 'react';
import { writeDay } from '@/core/calendar/typedDay';
import { grouped } from '@/core/collections/grouped';
import type { MeetingOutcome } from '@/core/minutes/contract';
import { outcomeKinds, type OutcomeKind } from '@/core/minutes/model';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { downloadCsv } from '../kit/downloadCsv';
import { Link } from '../kit/link';
import { Tabs } from '../kit/tabs';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { OutcomeLine } from './OutcomeLine';

const kindWords: Readonly<Record<OutcomeKind, string>> = { decision: 'Decisions', action: 'Actions' };
const box = 'h-[34px] rounded-sm border border-edge bg-sheet px-2';

/** The decisions and actions of all meetings in a place, over years. */
export function RegisterPage({ placeId, name }: { readonly placeId: string; readonly name: string }) {
  const [kind, setKind] = useQueryState(
    'kind',
    parseAsStringLiteral(outcomeKinds).withDefault('decision').withOptions({ history: 'push' }),
  );
  const [words, setWords] = useQueryState('words', parseAsString.withDefault(''));
  const [year, setYear] = useQueryState('year', parseAsInteger);
  const [openOnly, setOpenOnly] = useQueryState('open', parseAsBoolean.withDefault(false));
  const asked = useDeferredValue(words.trim());
  const isOpenOnly = kind === 'action' && openOnly;
  const { data, error } = useAsk(
    'register.of',
    { placeId, kind, words: asked, year, openOnly: isOpenOnly },
    { keepPrevious: true },
  );
  const isNarrowed = asked !== '' || year !== null || isOpenOnly;
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      <div className="max-w-[980px]">
        <p className="text-sm">
          <Link href={`/place/${placeId}`} className="text-brine-ink hover:underline">
            {name}
          </Link>
        </p>
        <h1 className="mb-3 font-condensed text-xl">Decisions and actions</h1>
        <Tabs
          label="What is listed"
          parts={outcomeKinds}
          words={kindWords}
          shown={kind}
          onShow={(next) => void setKind(next)}
        />
        <div className="mb-3 flex flex-wrap items-center gap-2">
          <input
            type="search"
            aria-label="Words to look for"
            placeholder={kind === 'decision' ? 'Any words of a decision' : 'Any words of an action, or who does it'}
            value={words}
            maxLength={200}
            onChange={({ target }) => void setWords(target.value === '' ? null : target.value)}
            className={`${box} min-w-0 flex-1 basis-60 placeholder:text-soft`}
          />
          <select
            aria-label="Year"
            value={year ?? ''}
            onChange={({ target }) => void setYear(target.value === '' ? null : Number(target.value))}
            className={box}
          >
            <option value="">All years</option>
            {(data?.years ?? []).map((each) => (
              <option key={each} value={each}>
                {each}
              </option>
            ))}
          </select>
          {kind === 'action' && (
            <label className="flex min-h-[34px] items-center gap-2">
              <input
                type="checkbox"
                checked={openOnly}
                onChange={({ target }) => void setOpenOnly(target.checked)}
                className="size-[15px] accent-brine"
              />
              Open ones only
            </label>
          )}
          <Button
            disabled={!data || data.rows.length === 0}
            onClick={() => data && downloadCsv(`${kindWords[kind]} of ${name}.csv`, cellsOf(data.rows))}
          >
            Save as CSV
          </Button>
        </div>
        {error && <p role="alert">{saysOf(error)}</p>}
        {data && (
          <>
            <p role="status" className="mb-2 text-sm text-soft">
              {data.rows.length === 0
                ? isNarrowed
                  ? 'Nothing matches. Take words or the year away.'
                  : `No ${kind} is recorded here yet: they are recorded under “Minutes” of a meeting.`
                : data.more
                  ? `The newest ${data.rows.length} are shown. Narrow them by words or by the year.`
                  : counted(data.rows.length, kind)}
            </p>
            <Meetings rows={data.rows} />
          </>
        )}
      </div>
    </main>
  );
}

function Meetings({ rows }: { readonly rows: readonly MeetingOutcome[] }) {
  return [...grouped(rows, ({ meeting }) => meeting.id).values()].map((of) => {
    const [first] = of;
    if (!first) return null;
    const { meeting, dossier } = first;
    return (
      <section key={meeting.id} aria-label={`${dossier.name}, ${writeDay(meeting.day)}`} className="mb-4">
        <h2 className="mb-1 font-medium">
          <Link href={`/meeting/${meeting.id}?part=minutes`} className="text-brine-ink hover:underline">
            {dossier.name}, {writeDay(meeting.day)}
          </Link>
        </h2>
        <ul className="rounded-sm border border-line bg-sheet">
          {of.map((each) => (
            <li
              key={each.id}
              className="flex flex-wrap items-start gap-x-2 border-b border-line px-4 py-1.5 last:border-b-0"
            >
              <span className="figures w-10 shrink-0 font-medium">{each.number}</span>
              <OutcomeLine outcome={each} saysKind={false} />
            </li>
          ))}
        </ul>
      </section>
    );
  });
}

/** The list as a table: a row of names, then a row each. */
const cellsOf = (rows: readonly MeetingOutcome[]): string[][] => [
  ['Day', 'Dossier', 'Item', 'What', 'Who', 'By', 'Done on', 'Done by'],
  ...rows.map(({ meeting, dossier, number, text, who, dueOn, done }) => [
    meeting.day,
    dossier.name,
    number,
    text,
    who,
    dueOn ?? '',
    done?.on ?? '',
    done?.by ?? '',
  ]),
];
