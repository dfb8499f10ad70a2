'use client';

import { Bar, BarChart, CartesianGrid, LabelList, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { NamedGroup } from '@/core/views/contract';

/** What a bar measures of a group. */
export interface ChartMeasure {
  readonly name: string;
  readonly of: (group: NamedGroup) => number;
  readonly words: (amount: number) => string;
}

/** The most bars that say something; the rest stands in one. */
const mostBars = 24;
const barHeight = 26;
const nameWidth = 132;

/** A bar for each group: how much it holds. The same numbers stand in a table for those who hear them. */
export function CountChart({
  label,
  groups,
  measure,
}: {
  readonly label: string;
  readonly groups: readonly NamedGroup[];
  readonly measure: ChartMeasure;
}) {
  const bars = groups.slice(0, mostBars).map((group) => ({
    name: group.name,
    amount: measure.of(group),
    words: measure.words(measure.of(group)),
  }));
  const left = groups.length - bars.length;
  return (
    <figure aria-label={label} className="min-w-0">
      <div aria-hidden style={{ height: bars.length * barHeight + 30 }}>
        <ResponsiveContainer width="100%" height="100%">
          <BarChart data={bars} layout="vertical" margin={{ top: 4, right: 62, bottom: 4, left: 4 }}>
            <CartesianGrid horizontal={false} stroke="var(--color-line)" />
            <XAxis type="number" tick={{ fontSize: 11, fill: 'var(--color-soft)' }} stroke="var(--color-line)" />
            <YAxis
              type="category"
              dataKey="name"
              width={nameWidth}
              interval={0}
              tick={{ fontSize: 12, fill: 'var(--color-ink)' }}
              stroke="var(--color-line)"
            />
            <Bar dataKey="amount" fill="var(--color-brine)" isAnimationActive={false} barSize={14}>
              <LabelList dataKey="words" position="right" fontSize={11} fill="var(--color-soft)" />
            </Bar>
          </BarChart>
        </ResponsiveContainer>
      </div>
      {left > 0 && (
        <figcaption className="px-2 text-sm text-soft">And {left.toLocaleString('en-GB')} groups more.</figcaption>
      )}
      <table className="sr-only">
        <caption>{label}</caption>
        <thead>
          <tr>
            <th scope="col">Group</th>
            <th scope="col">{measure.name}</th>
          </tr>
        </thead>
        <tbody>
          {groups.map((group, at) => (
            <tr key={at}>
              <th scope="row">{group.name}</th>
              <td>{measure.words(measure.of(group))}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </figure>
  );
}
