'use client';

import { useSearchParams } from 'next/navigation';
import { parseAsJson, parseAsString, useQueryStates } from 'nuqs';
import { useEffect, useMemo, useState } from 'react';
import { amongs } from '@/core/search/among';
import {
  conditionsSchema,
  findsIn,
  isBlock,
  isFind,
  type Conditions,
  type FindCondition,
} from '@/core/views/conditions';
import type { PlaceRow } from '@/core/places/model';
import type { ViewPage } from '@/core/views/contract';
import { plainView, type ViewSpec } from '@/core/views/spec';
import { call, saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { BookmarkButton } from '../bookmarks/BookmarkButton';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { useSurroundings } from '../surroundings/Surroundings';
import { amongNames } from '../views/FindCondition';
import { ViewRoom } from '../views/ViewRoom';

const found: ViewSpec = {
  ...plainView,
  below: true,
  layout: 'passages',
  columns: ['kind', 'place', 'pages', 'filedAt', 'changedAt'],
};
const nothingFixed: ReadonlySet<string> = new Set();

/** What of the page of results stands in its address, beside what every view has there. */
const addressed = {
  if: parseAsJson(conditionsSchema),
  /** Words for which nothing was found, and near ones were looked for instead. */
  typed: parseAsString,
  /** Set where near words are not wanted. */
  just: parseAsString,
};

/** The conditions with other words to look for. */
const withFind = (conditions: Conditions, find: FindCondition): Conditions =>
  conditions.some((part) => !isBlock(part) && isFind(part))
    ? conditions.map((part) => (!isBlock(part) && isFind(part) ? find : part))
    : [find, ...conditions];

/** What words find, as a view whose words are one of its conditions. */
export function FindRoom({ place }: { readonly place: { readonly id: string; readonly name: string } | null }) {
  const { library, seenBy } = useSurroundings();
  const [state, setState] = useQueryStates(addressed);
  const conditions = useMemo(() => state.if ?? [], [state.if]);
  const [find = null] = useMemo(() => findsIn(conditions), [conditions]);
  const { data: series, error } = useAsk('places.series', {});
  const words = find?.find ?? '';

  useEffect(() => {
    // What stands in an address is remembered once it is looked at, as if it had been typed.
    if (words.trim() !== '' && words.length <= 200 && seenBy === null)
      call('search.remember', { words }).catch(() => undefined);
  }, [words, seenBy]);

  const ask: OnAsk = (next, also = {}, history = 'push') =>
    void setState({ if: [...withFind(conditions, next)], typed: null, just: null, ...also }, { history });
  const question = <Question key={JSON.stringify(find)} find={find} place={place} onAsk={ask} />;
  if (find === null || series?.length === 0 || error)
    return (
      <main id="main" className="min-w-0 flex-1 overflow-y-auto bg-sheet">
        <h1 className="sr-only">Find</h1>
        {question}
        {find === null ? (
          <HowTo />
        ) : (
          <p className="px-6 py-6">
            {error ? saysOf(error) : `Nothing was found for “${find.find}”: nothing is open to you yet.`}
          </p>
        )}
      </main>
    );
  const placeName = place?.name ?? 'the whole library';
  return (
    <div className="relative flex min-h-0 min-w-0 flex-1">
      <ViewRoom
        placeId={place?.id ?? library.rootId}
        placeName={placeName}
        seriesId={place?.id ?? library.rootId}
        plainWords="Found"
        plainView={found}
        withoutFilter
        places={[]}
        mayAmend={false}
        fixedHere={nothingFixed}
        where={<WhereList series={series ?? []} find={find} placeId={place?.id ?? null} />}
        strip={
          <>
            <h1 className="sr-only">Find</h1>
            {question}
          </>
        }
        above={(page) => <Near page={page} find={find} state={state} onAsk={ask} />}
        notices={null}
        placeDocket={<p className="p-4 text-soft">Select a paper to see its details here.</p>}
        empty={
          <NothingFound
            find={find}
            place={place}
            conditions={conditions}
            onAsk={ask}
            onConditions={(next) => void setState({ if: [...next] })}
          />
        }
      />
    </div>
  );
}

type OnAsk = (
  next: FindCondition,
  also?: { typed?: string | null; just?: string | null },
  history?: 'push' | 'replace',
) => void;

/** The words, and where they are looked for. */
function Question({
  find,
  place,
  onAsk,
}: {
  readonly find: FindCondition | null;
  readonly place: { readonly id: string; readonly name: string } | null;
  readonly onAsk: OnAsk;
}) {
  const [typed, setTyped] = useState(find?.find ?? '');
  const among = find?.among ?? 'everything';
  return (
    <form
      role="search"
      className="flex flex-wrap items-center gap-2 border-b border-line bg-sheet px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        onAsk({ of: 'find', find: typed.trim(), among });
      }}
    >
      <input
        aria-label="Words to find"
        value={typed}
        maxLength={2000}
        autoFocus={find === null}
        onChange={(event) => setTyped(event.target.value)}
        className="h-[34px] min-w-40 flex-1 rounded-sm border border-edge bg-sheet px-3 text-base sm:max-w-[34em]"
      />
      <select
        aria-label="Where in papers"
        value={among}
        onChange={(event) =>
          onAsk({
            of: 'find',
            find: typed.trim(),
            among: amongs.find((each) => each === event.target.value) ?? 'everything',
          })
        }
        className="h-[34px] rounded-sm border border-edge bg-sheet px-2"
      >
        {amongs.map((each) => (
          <option key={each} value={each}>
            {amongNames[each]}
          </option>
        ))}
      </select>
      <Button type="submit" look="main">
        Find
      </Button>
      {find !== null && <BookmarkSearch words={find.find} />}
      <span className="text-sm text-soft">
        {place !== null && `In ${place.name} and below`}
        {place !== null && find !== null && (
          <>
            {' · '}
            <Link
              href={`/find?${new URLSearchParams({ if: JSON.stringify([find]) }).toString()}`}
              className="text-brine-ink hover:underline"
            >
              In the whole library
            </Link>
          </>
        )}
      </span>
    </form>
  );
}

/** Bookmarks the search as it stands in the address. */
function BookmarkSearch({ words }: { readonly words: string }) {
  const asked = useSearchParams();
  return <BookmarkButton it={{ on: { kind: 'search', ref: `/find?${asked.toString()}` }, name: words }} />;
}

/** What else may have been meant; near words are looked for at once where nothing else is found. */
function Near({
  page,
  find,
  state,
  onAsk,
}: {
  readonly page: ViewPage;
  readonly find: FindCondition;
  readonly state: { readonly typed: string | null; readonly just: string | null };
  readonly onAsk: OnAsk;
}) {
  const meant = page.found?.meant ?? null;
  const instead = page.state === 'counted' && page.totals?.papers === 0 && meant !== null && state.just === null;
  useEffect(() => {
    // In place of the address that found nothing: Back would lead there, and from there to here again.
    if (instead && state.typed === null) onAsk({ ...find, find: meant }, { typed: find.find }, 'replace');
    // Once for each answer: asking changes the address, and with it the answer.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [instead, meant]);
  const link = 'text-brine-ink hover:underline';
  return (
    <>
      {state.typed !== null && (
        <p role="status" className="border-b border-line bg-sheet px-4 py-2">
          Nothing was found for “{state.typed}”. This is what was found for <b>{find.find}</b>.{' '}
          <button
            type="button"
            className={link}
            onClick={() => onAsk({ ...find, find: state.typed ?? '' }, { just: '1' })}
          >
            Look for “{state.typed}” all the same
          </button>
        </p>
      )}
      {meant !== null && !instead && state.typed === null && (
        <p role="status" className="border-b border-line bg-sheet px-4 py-2">
          Did you mean{' '}
          <button type="button" className={`${link} font-medium`} onClick={() => onAsk({ ...find, find: meant })}>
            {meant}
          </button>
          ?
        </p>
      )}
      {(page.found?.leftOut ?? 0) > 0 && (
        <p role="status" className="border-b border-line bg-sheet px-4 py-2 text-soft">
          {page.found?.leftOut} words were left out: at most 32 are looked for.
        </p>
      )}
    </>
  );
}

/** The series: ways to look for the same in one of them. */
function WhereList({
  series,
  find,
  placeId,
}: {
  readonly series: readonly PlaceRow[];
  readonly find: FindCondition;
  readonly placeId: string | null;
}) {
  const address = (id: string | null) =>
    `/find?${new URLSearchParams({ ...(id === null ? {} : { in: id }), if: JSON.stringify([find]) }).toString()}`;
  const look = (here: boolean) =>
    `flex h-[28px] items-center px-4 hover:bg-mist ${here ? 'bg-brine-wash font-medium text-brine-ink' : ''}`;
  return (
    <nav aria-label="Where to look" className="min-h-0 flex-1 overflow-y-auto pb-4">
      <p className="px-4 pt-3 pb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">Look in</p>
      <ul>
        <li>
          <Link
            href={address(null)}
            aria-current={placeId === null ? 'true' : undefined}
            className={look(placeId === null)}
          >
            The whole library
          </Link>
        </li>
        {series.map(({ id, name }) => (
          <li key={id}>
            <Link
              href={address(id)}
              aria-current={placeId === id ? 'true' : undefined}
              className={look(placeId === id)}
            >
              <span className="truncate">{name}</span>
            </Link>
          </li>
        ))}
      </ul>
    </nav>
  );
}

function HowTo() {
  return (
    <div className="max-w-prose px-6 py-6 text-soft">
      <p>
        Type words that stand in a paper, its title, its values, its labels or the name of its place, in any order. A
        part of a number finds it too, and a day or an amount in whatever way it is written.
      </p>
      <dl className="mt-3 grid grid-cols-[max-content_1fr] gap-x-4 gap-y-1">
        <dt className="font-mono text-ink">“fender piles”</dt>
        <dd>the words one after the other</dd>
        <dt className="font-mono text-ink">minutes -draft</dt>
        <dd>without a word</dd>
        <dt className="font-mono text-ink">fend*</dt>
        <dd>words that begin so</dd>
      </dl>
    </div>
  );
}

function NothingFound({
  find,
  place,
  conditions,
  onAsk,
  onConditions,
}: {
  readonly find: FindCondition;
  readonly place: { readonly name: string } | null;
  readonly conditions: Conditions;
  readonly onAsk: OnAsk;
  readonly onConditions: (next: Conditions) => void;
}) {
  const words = find.find.trim().split(/\s+/u);
  const link = 'text-brine-ink hover:underline';
  return (
    <div className="flex-1 bg-sheet px-6 py-6">
      <p>
        Nothing was found for “{find.find}”{' '}
        {find.among === 'everything' ? '' : `${amongNames[find.among].toLowerCase()}, `}
        in {place === null ? 'the papers that are open to you' : `${place.name} and below it`}.
      </p>
      <ul className="mt-2 list-disc pl-5">
        {find.among !== 'everything' && (
          <li>
            <button type="button" className={link} onClick={() => onAsk({ ...find, among: 'everything' })}>
              Look everywhere in papers
            </button>
          </li>
        )}
        {place !== null && (
          <li>
            <Link href={`/find?${new URLSearchParams({ if: JSON.stringify([find]) }).toString()}`} className={link}>
              Look in the whole library
            </Link>
          </li>
        )}
        {conditions.length > 1 && (
          <li>
            <button type="button" className={link} onClick={() => onConditions([find])}>
              Leave the other conditions out
            </button>
          </li>
        )}
        {words.length > 1 &&
          words.slice(0, 4).map((word) => (
            <li key={word}>
              <button
                type="button"
                className={link}
                onClick={() => onAsk({ ...find, find: words.filter((each) => each !== word).join(' ') })}
              >
                Leave “{word}” out
              </button>
            </li>
          ))}
      </ul>
    </div>
  );
}
