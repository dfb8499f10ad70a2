'use client';

import { format } from 'date-fns';
import { parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs';
import type { GapRow } from '@/core/expected/contract';
import { gapGroupings, gatherGaps, type GapGrouping } from '@/core/expected/gapOrder';
import { searchKey } from '@/core/text/fold';
import { counted } from '@/core/text/measure';
import { dayInWords } from '@/core/calendar/moment';
import { OwedPapers } from '../agenda/OwedPapers';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { downloadCsv } from '../kit/downloadCsv';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

const words: Record<GapGrouping, string> = {
  dossier: 'Dossier',
  due: 'When they were due',
  officer: 'Who is responsible',
};

/** The most lines listed; people filter for the others, or download them. */
const mostListed = 1000;

const monthName = (day: string): string =>
  format(new Date(Number(day.slice(0, 4)), Number(day.slice(5, 7)) - 1, 1), 'MMMM yyyy');

const haystack = (gap: GapRow): string =>
  searchKey([gap.series, gap.reference ?? '', gap.dossier, gap.name, gap.officer ?? ''].join(' '));

/** All overdue missing papers that the person may know of. */
export function GapsPage() {
  const { timeZone } = useSurroundings();
  const { data, error } = useAsk('gaps.of', { placeId: null }, { untilCounted: true });
  const { data: owed } = useAsk('agenda.owed', { whose: 'all' });
  const [{ by, find }, setState] = useQueryStates({
    by: parseAsStringLiteral(gapGroupings).withDefault('dossier'),
    find: parseAsString.withDefault(''),
  });
  const key = searchKey(find);
  const gaps = data?.gaps.filter((gap) => haystack(gap).includes(key)) ?? [];
  const day = (iso: string) => dayInWords(`${iso}T12:00:00Z`, timeZone);
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
      <h1 className="font-condensed text-xl">Gaps</h1>
      <p className="mb-3 max-w-[720px] text-soft">
        Papers that the filing plans expect, that were due, and that are not there, in what is open to you.
      </p>
      {owed && owed.length > 0 && (
        <section aria-label="Asked for, for meetings" className="mb-4 max-w-[980px]">
          <h2 className="mb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">
            Asked for, for meetings
          </h2>
          <ul className="rounded-sm border border-line bg-sheet">
            <OwedPapers
              owed={owed}
              line="flex min-h-[34px] items-center gap-3 border-b border-line px-3 py-1 last:border-0"
            />
          </ul>
        </section>
      )}
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <input
          type="search"
          aria-label="Find gaps"
          placeholder="Dossier, paper, person"
          value={find}
          onChange={(event) => void setState({ find: event.target.value })}
          className="h-[32px] w-56 rounded-sm border border-edge bg-sheet px-2.5 placeholder:text-soft"
        />
        <label className="flex items-center gap-2 text-sm text-soft">
          By
          <select
            value={by}
            onChange={(event) =>
              void setState({ by: gapGroupings.find((each) => each === event.target.value) ?? null })
            }
            className="h-[32px] rounded-sm border border-edge bg-sheet px-1.5 text-ink"
          >
            {gapGroupings.map((each) => (
              <option key={each} value={each}>
                {words[each]}
              </option>
            ))}
          </select>
        </label>
        <span role="status" className="figures flex-1 text-sm text-soft">
          {data?.state === 'counting'
            ? 'Counting once the library has been read…'
            : data && counted(gaps.length, 'gap')}
        </span>
        {gaps.length > 0 && <Button onClick={() => download(gaps)}>Download as CSV</Button>}
      </div>
      {error && <p role="alert">{saysOf(error)}</p>}
      {data?.state === 'counted' && gaps.length === 0 && (
        <p className="rounded-sm border border-line bg-sheet px-4 py-6 text-soft">
          {key === '' ? 'There are none. Expected papers are set in the filing plan of each series.' : 'No gaps match.'}
        </p>
      )}
      {gaps.length > mostListed && (
        <p role="status" className="mb-3 text-soft">
          Here are the {mostListed.toLocaleString('en-GB')} longest overdue. Narrow them by words, or download all as
          CSV.
        </p>
      )}
      {gatherGaps(gaps.slice(0, mostListed), by, monthName).map((group) => (
        <section key={group.name} aria-label={group.name} className="mb-4">
          <h2 className="mb-1 flex items-baseline gap-2 font-condensed">
            {group.name}
            <span className="figures text-sm font-normal text-soft">{group.gaps.length}</span>
          </h2>
          <ul className="rounded-sm border border-line bg-sheet">
            {group.gaps.map((gap) => (
              <li
                key={`${gap.expectationId} ${gap.dossierId} ${gap.startYear} ${gap.meetingId}`}
                className="flex flex-wrap items-baseline gap-x-3 border-b border-line px-3 py-1.5 last:border-0"
              >
                <span className="font-medium">{gap.name}</span>
                <span className="text-soft">
                  {gap.meeting ? `meeting of ${day(gap.meeting.day)}` : (gap.yearLabel ?? '')}
                </span>
                {by !== 'dossier' && (
                  <span className="text-soft">
                    {gap.series} / {gap.dossier}
                  </span>
                )}
                <span className="ml-auto text-sm text-ember-ink">was due {day(gap.due)}</span>
                {by !== 'officer' && <span className="w-40 truncate text-sm text-soft">{gap.officer ?? ''}</span>}
                <Link
                  href={`/place/${gap.dossierId}?view=glance`}
                  aria-label={`Open ${gap.dossier}`}
                  className="text-sm text-brine-ink hover:underline"
                >
                  Open
                </Link>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </main>
  );
}

function download(gaps: readonly GapRow[]): void {
  const head = ['Series', 'Reference', 'Dossier', 'Expected paper', 'Filing year', 'Meeting', 'Due', 'Responsible'];
  const lines = gaps.map((gap) => [
    gap.series,
    gap.reference ?? '',
    gap.dossier,
    gap.name,
    gap.yearLabel ?? '',
    gap.meeting?.day ?? '',
    gap.due,
    gap.officer ?? '',
  ]);
  downloadCsv('Gaps.csv', [head, ...lines]);
}
