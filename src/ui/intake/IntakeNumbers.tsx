'use client';

import { Bar, BarChart, CartesianGrid, Legend, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { IntakeNumbers as Numbers } from '@/core/intake/contract';
import { arrivalWays, wayWords, type ArrivalWay } from '@/core/intake/model';
import { counted } from '@/core/text/measure';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { HowSure } from './HowSure';

const colours: Readonly<Record<ArrivalWay, string>> = {
  mail: 'var(--color-brine-ink)',
  scan: 'var(--color-straw-edge)',
  hand: 'var(--color-ember)',
  store: 'var(--color-soft)',
};
const axis = { fontSize: 11, fill: 'var(--color-soft)' };
const monthNames = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ');
/** “Nov 26” of `2026-11`. */
const monthInWords = (month: string): string => `${monthNames[Number(month.slice(5)) - 1] ?? ''} ${month.slice(2, 4)}`;

/** What the intake comes to, for keepers: how much arrives, how well it is proposed, and how long it waits. */
export function IntakeNumbers() {
  const { data, error } = useAsk('intake.numbers', {});
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-sm:px-3">
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && (
        <div className="grid max-w-[1080px] grid-cols-[minmax(0,3fr)_minmax(0,2fr)] gap-6 max-[900px]:grid-cols-1">
          <Arrived months={data.months} />
          <div>
            <Filed numbers={data} />
            <Corrected corrected={data.corrected} known={data.known} />
            <HowSure sure={data.sure} className={heading} />
          </div>
        </div>
      )}
    </div>
  );
}

const heading = 'mb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase';

function Arrived({ months }: Pick<Numbers, 'months'>) {
  const bars = months.map(({ month, ways }) => ({ name: monthInWords(month), ...ways }));
  return (
    <section>
      <h2 className={heading}>Arrivals by month</h2>
      <figure aria-label="Arrivals by month and way" className="rounded-sm border border-line bg-sheet p-3">
        <div aria-hidden style={{ height: 260 }}>
          <ResponsiveContainer width="100%" height="100%">
            <BarChart data={bars} accessibilityLayer={false} margin={{ top: 4, right: 4, bottom: 0, left: -16 }}>
              <CartesianGrid vertical={false} stroke="var(--color-line)" />
              <XAxis dataKey="name" tick={axis} stroke="var(--color-line)" />
              <YAxis tick={axis} allowDecimals={false} stroke="var(--color-line)" />
              <Tooltip
                cursor={{ fill: 'var(--color-mist)' }}
                contentStyle={{ background: 'var(--color-sheet)', border: '1px solid var(--color-line)' }}
              />
              <Legend
                iconSize={10}
                wrapperStyle={{ fontSize: 12 }}
                formatter={(name: string) => <span className="text-ink">{name}</span>}
              />
              {arrivalWays.map((way) => (
                <Bar
                  key={way}
                  dataKey={way}
                  name={wayWords[way]}
                  stackId="ways"
                  fill={colours[way]}
                  isAnimationActive={false}
                />
              ))}
            </BarChart>
          </ResponsiveContainer>
        </div>
        <table className="sr-only">
          <caption>Arrivals by month and way</caption>
          <thead>
            <tr>
              <th scope="col">Month</th>
              {arrivalWays.map((way) => (
                <th key={way} scope="col">
                  {wayWords[way]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {months.map(({ month, ways }) => (
              <tr key={month}>
                <th scope="row">{monthInWords(month)}</th>
                {arrivalWays.map((way) => (
                  <td key={way}>{ways[way] ?? 0}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </figure>
    </section>
  );
}

function Filed({ numbers: { known, unchanged, byRule, waited } }: { readonly numbers: Numbers }) {
  return (
    <section className="mb-5">
      <h2 className={heading}>What was filed</h2>
      <dl className="rounded-sm border border-line bg-sheet px-4 py-3">
        <dt className="text-sm text-soft">Filed just as proposed</dt>
        <dd className="mb-2">
          {known === 0 ? (
            'Nothing has been filed yet of which that is known.'
          ) : (
            <>
              <span className="font-condensed text-xl">{Math.round((100 * unchanged) / known)} %</span>
              <span className="text-soft">
                {' '}
                ({unchanged} of {counted(known, 'arrival')})
              </span>
            </>
          )}
        </dd>
        <dt className="text-sm text-soft">Filed by rules, without a person</dt>
        <dd className="mb-2">{byRule === 0 ? 'None' : counted(byRule, 'arrival')}</dd>
        <dt className="text-sm text-soft">From arriving to being filed by a person</dt>
        <dd>
          {waited === null
            ? 'Not known yet'
            : `Half within ${spanInWords(waited.half)}, nine of ten within ${spanInWords(waited.most)}`}
        </dd>
      </dl>
    </section>
  );
}

function Corrected({ corrected, known }: Pick<Numbers, 'corrected' | 'known'>) {
  const most = Math.max(1, ...corrected.map(({ count }) => count));
  return (
    <section>
      <h2 className={heading}>Corrected most</h2>
      {corrected.length === 0 ? (
        <p className="text-soft">{known === 0 ? 'Not known yet.' : 'Nothing was corrected.'}</p>
      ) : (
        <ol className="rounded-sm border border-line bg-sheet px-4 py-2">
          {corrected.map(({ field, count }) => (
            <li key={field} className="flex items-center gap-3 py-1">
              <span className="w-[120px] shrink-0 truncate">{field}</span>
              <span aria-hidden className="h-2.5 bg-brine-ink" style={{ width: `${(count / most) * 45}%` }} />
              <span className="figures text-soft">{count}</span>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

/** “40 minutes”, “3 hours” or “2 days”: as exactly as it matters. */
function spanInWords(seconds: number): string {
  const minutes = seconds / 60;
  if (minutes < 90) return counted(Math.max(1, Math.round(minutes)), 'minute');
  return minutes < 36 * 60 ? counted(Math.round(minutes / 60), 'hour') : counted(Math.round(minutes / 1440), 'day');
}
