'use client';

import { parseAsStringLiteral, useQueryState } from 'nuqs';
import { writeDay } from '@/core/calendar/typedDay';
import { findings, findingWords, type Finding, type FoundOf } from '@/core/health/model';
import { Link } from '../kit/link';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';

/** What is found in the library that wants a keeper's hand: each a list to act on, with its number over time. */
export function HealthPage() {
  const { data, error } = useAsk('health.counts', {});
  const [open, setOpen] = useQueryState('of', parseAsStringLiteral(findings));
  if (error) return <p className="p-6">{saysOf(error)}</p>;
  const found = data?.filter(({ number }) => number > 0) ?? [];
  const clean = data?.filter(({ number }) => number === 0) ?? [];
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      <h1 className="mb-1 font-condensed text-xl">Health</h1>
      <p className="mb-3 text-soft">What in the library wants a hand. Press one to see the list.</p>
      {!data && <p aria-busy>Looking through the library…</p>}
      {data && found.length === 0 && (
        <p className="rounded-sm border border-line bg-sheet px-4 py-6">
          Nothing was found. The library is in good order.
        </p>
      )}
      <ul className="rounded-sm border border-line bg-sheet empty:hidden">
        {found.map((each) => (
          <li key={each.finding} className="border-b border-line last:border-0">
            <button
              type="button"
              aria-expanded={open === each.finding}
              onClick={() => void setOpen(open === each.finding ? null : each.finding)}
              className="flex w-full items-center gap-3 px-3 py-2 text-left hover:bg-fog"
            >
              <span className="figures w-[52px] shrink-0 text-right text-lg font-semibold">
                {each.number.toLocaleString('en-GB')}
              </span>
              <span className="min-w-0 flex-1">
                <span className="block font-medium">{findingWords[each.finding].name}</span>
                <span className="block text-sm text-soft">{findingWords[each.finding].about}</span>
              </span>
              <Over found={each} />
            </button>
            {open === each.finding && <Things finding={each.finding} total={each.number} />}
          </li>
        ))}
      </ul>
      {clean.length > 0 && (
        <p className="mt-3 max-w-[90ch] text-sm text-soft">
          Looked for and not found: {clean.map(({ finding }) => lower(findingWords[finding].name)).join('; ')}.
        </p>
      )}
    </main>
  );
}

const lower = (words: string): string => words.charAt(0).toLowerCase() + words.slice(1);

const [width, height] = [90, 24];

/** The number over time, as a line, and in words what became of it. */
function Over({ found }: { readonly found: FoundOf }) {
  const all = found.before.map(({ number }) => number);
  const [first] = found.before;
  if (!first || all.length < 2) return null;
  const most = Math.max(...all, 1);
  const points = all.map(
    (number, at) => `${(at / (all.length - 1)) * width},${height - (number / most) * (height - 2) - 1}`,
  );
  const words = `${first.number.toLocaleString('en-GB')} on ${writeDay(first.day)}`;
  return (
    <span className="hidden shrink-0 items-center gap-2 text-sm text-soft sm:flex">
      <svg width={width} height={height} aria-hidden>
        <polyline points={points.join(' ')} fill="none" stroke="var(--color-brine)" strokeWidth="1.5" />
      </svg>
      <span className="w-[130px]">{words}</span>
    </span>
  );
}

function Things({ finding, total }: { readonly finding: Finding; readonly total: number }) {
  const { data, error } = useAsk('health.list', { finding });
  if (error) return <p className="px-3 py-2">{saysOf(error)}</p>;
  if (!data)
    return (
      <p className="px-3 py-2 text-soft" aria-busy>
        Looking…
      </p>
    );
  return (
    <div className="border-t border-line bg-fog px-3 py-2 sm:pl-[76px]">
      <ul>
        {data.map((thing, at) => (
          <li key={at} className="flex gap-3 py-0.5">
            <Link href={thing.address} className="min-w-0 truncate font-medium hover:underline">
              {thing.name}
            </Link>
            <span className="ml-auto max-w-[50%] shrink-0 truncate text-sm text-soft">{thing.about}</span>
          </li>
        ))}
      </ul>
      {total > data.length && (
        <p className="mt-1 text-sm text-soft">The first {data.length.toLocaleString('en-GB')} by name.</p>
      )}
    </div>
  );
}
