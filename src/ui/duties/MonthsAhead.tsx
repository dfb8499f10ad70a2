'use client';

import { useRouter } from 'next/navigation';
import { Bar, BarChart, Cell, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { Conditions } from '@/core/views/conditions';
import type { NamedGroup } from '@/core/views/contract';
import { counted } from '@/core/text/measure';
import { Link } from '../kit/link';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

const height = 120;
const axis = { fontSize: 11, fill: 'var(--color-soft)' };
const withConditions = (conditions: Conditions, sort: string): string =>
  `/duties?${new URLSearchParams({ view: 'plain', if: JSON.stringify(conditions), sort })}`;

/** The months of duties as charts, each bar a way to its papers; and who reviews how many. */
export function MonthsAhead({ isKeeper }: { readonly isKeeper: boolean }) {
  return (
    <nav aria-label="Duties by month" className="min-h-0 flex-1 overflow-y-auto px-4 pt-3 pb-4">
      <MonthChart of="reviewOn" title="Reviews by month" />
      <Reviewers />
      <p className="mb-4 text-sm">
        <a href="/api/reviews" className="text-brine-ink hover:underline">
          My reviews as a calendar
        </a>
      </p>
      <Signatures />
      {isKeeper && (
        <>
          <MonthChart of="keptUntil" title="End of retention by month" />
          <p className="text-sm">
            <Link href="/retention" className="text-brine-ink hover:underline">
              Schedule, holds and disposals
            </Link>
          </p>
        </>
      )}
    </nav>
  );
}

const question = {
  below: true,
  filter: '',
  conditions: [],
  sorts: [],
  counts: [],
  measures: [],
  start: 0,
  limit: 0,
};
/** So many months are drawn; where they are more than a few, by their first letters. */
const [mostMonths, mostNamed] = [14, 6];

/** One bar for what is past, then month by month. */
function barsOf(past: number, groups: readonly NamedGroup[]) {
  return [
    ...(past > 0 ? [{ key: 'past', name: 'Past', papers: past, isPast: true }] : []),
    ...groups
      .filter(({ kind }) => kind === 'value')
      .slice(0, mostMonths)
      .map(({ key, name, totals }) => ({ key: String(key), name, papers: totals.papers, isPast: false })),
  ];
}

function MonthChart({ of, title }: { readonly of: 'reviewOn' | 'keptUntil'; readonly title: string }) {
  const router = useRouter();
  const { library, now } = useSurroundings();
  const isPast = { of, span: { is: 'before-today' } } as const;
  const isAhead = { of, span: { from: now.slice(0, 10), to: null } } as const;
  const { data } = useAsk(
    'view.open',
    {
      ...question,
      placeId: library.rootId,
      conditions: [isAhead],
      groupings: [{ of, by: 'month', order: 'own', direction: 'up' }],
    },
    { untilCounted: true },
  );
  const past = useAsk(
    'view.open',
    { ...question, placeId: library.rootId, conditions: [isPast], groupings: [] },
    { untilCounted: true },
  );
  const bars = barsOf(past.data?.totals?.papers ?? 0, data?.groups ?? []);
  const addressOf = (key: string): string =>
    withConditions(key === 'past' ? [isPast] : [isAhead, { of, anyOf: [key] }], of);
  return (
    <section className="mb-4">
      <h2 className="mb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">{title}</h2>
      {bars.length === 0 ? (
        <p className="text-sm text-soft">{data?.state === 'counting' ? 'Counting…' : 'None.'}</p>
      ) : (
        <>
          <ResponsiveContainer width="100%" height={height}>
            <BarChart data={bars} margin={{ top: 4, right: 0, bottom: 0, left: -28 }}>
              <XAxis
                dataKey="name"
                tick={axis}
                tickFormatter={(name: string) => name.slice(0, bars.length > mostNamed ? 1 : 4)}
                interval={0}
              />
              <YAxis tick={axis} allowDecimals={false} width={52} />
              <Tooltip
                cursor={{ fill: 'var(--color-mist)' }}
                contentStyle={{ background: 'var(--color-sheet)', border: '1px solid var(--color-line)' }}
              />
              <Bar dataKey="papers" name="Papers" isAnimationActive={false}>
                {bars.map(({ key, isPast }) => (
                  <Cell
                    key={key}
                    className="cursor-pointer"
                    fill={isPast ? 'var(--color-ember)' : 'var(--color-brine)'}
                    onClick={() => router.push(addressOf(key))}
                  />
                ))}
              </Bar>
            </BarChart>
          </ResponsiveContainer>
          <ul className="text-sm">
            {bars.slice(0, 4).map(({ key, name, papers, isPast }) => (
              <li key={key}>
                <Link href={addressOf(key)} className="flex min-h-[24px] items-center gap-2 hover:underline">
                  <span className={`min-w-0 flex-1 truncate ${isPast ? 'text-ember-ink' : ''}`}>{name}</span>
                  <span className="figures text-soft">{papers.toLocaleString('en-GB')}</span>
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

/** How many signatures wait, and the way to them. */
function Signatures() {
  const { data } = useAsk('signoff.lines', { whose: 'mine' });
  if (!data) return null;
  const lines = [
    ['They wait for me', data.filter(({ isMyTurn }) => isMyTurn).length],
    ['I wait for them', data.filter(({ askedByMe, state }) => askedByMe && state === 'open').length],
  ] as const;
  return (
    <section className="mb-4">
      <h2 className="mb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">Signatures</h2>
      <ul className="text-sm">
        {lines.map(([words, count]) => (
          <li key={words}>
            <Link href="/signatures" className="flex min-h-[24px] items-center gap-2 hover:underline">
              <span className="min-w-0 flex-1 truncate">{words}</span>
              <span className="figures text-soft">{count.toLocaleString('en-GB')}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Reviewers() {
  const { library } = useSurroundings();
  const { data } = useAsk(
    'view.open',
    {
      ...question,
      placeId: library.rootId,
      conditions: [{ of: 'reviewOn', filled: true }],
      groupings: [{ of: 'reviewer', by: 'value', order: 'papers', direction: 'down' }],
    },
    { untilCounted: true },
  );
  if (!data || data.groups.length === 0) return null;
  return (
    <section className="mb-2">
      <h2 className="mb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">Who reviews</h2>
      <ul className="text-sm">
        {data.groups.slice(0, 8).map(({ kind, key, name, totals }) => (
          <li key={String(key)}>
            <Link
              href={withConditions(
                [
                  { of: 'reviewOn', filled: true },
                  { of: 'reviewer', anyOf: [kind === 'value' ? key : null] },
                ],
                'reviewOn',
              )}
              className="flex min-h-[24px] items-center gap-2 hover:underline"
              title={counted(totals.papers, 'paper')}
            >
              <span className="min-w-0 flex-1 truncate">{kind === 'value' ? name : 'The keepers'}</span>
              <span className="figures text-soft">{totals.papers.toLocaleString('en-GB')}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
