'use client';

import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { Area, AreaChart, Bar, BarChart, Legend, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { Figures as AllFigures } from '@/core/desk/model';
import { counted, sizeInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { useAsk } from '../server/useCall';
import { BlockSheet, DeskBlock } from './Block';
import type { Frame } from './blockWords';
import { allWith } from './allWith';

/** Shades for series, from the two colours of the frame: neighbours differ in lightness, so they are told apart without hue. */
const shades = ['#0d4a50', '#4f8a8b', '#a9c9c4', '#b3421b', '#dd9a76', '#7d857f', '#c9cfc8'];
const height = 150;
const axis = { fontSize: 11, fill: 'var(--color-soft)' };

const shortMonth = (month: string): string =>
  new Intl.DateTimeFormat('en-GB', { month: 'short', timeZone: 'UTC' }).format(new Date(`${month}-01T00:00:00Z`));
const longMonth = (month: string): string =>
  new Intl.DateTimeFormat('en-GB', { month: 'long', year: 'numeric', timeZone: 'UTC' }).format(
    new Date(`${month}-01T00:00:00Z`),
  );
const filedIn = (month: string): string => allWith([{ of: 'filedAt', anyOf: [month] }]);
const ofKind = (stamp: string): string => allWith([{ of: 'kind', anyOf: [stamp] }]);
const mostKinds = 7;

/** The library in figures, for a keeper: each leads to its papers. */
export function Figures({ frame }: { readonly frame: Frame }) {
  const [asTables, setAsTables] = useState(false);
  const { data } = useAsk('desk.figures', {});
  const gaps = useAsk('gaps.of', { placeId: null }, { untilCounted: true });
  const missing = useMemo(() => {
    const byMonth = new Map<string, number>();
    for (const { due } of gaps.data?.gaps ?? []) byMonth.set(due.slice(0, 7), (byMonth.get(due.slice(0, 7)) ?? 0) + 1);
    return byMonth;
  }, [gaps.data]);
  if (!data || data.papers === 0) return null;
  return (
    <DeskBlock
      {...frame}
      about={`${counted(data.papers, 'paper')} · ${sizeInWords(data.sizeBytes)}`}
      acts={
        <Button look="quiet" className="!h-[24px] !px-1" aria-pressed={asTables} onClick={() => setAsTables(!asTables)}>
          {asTables ? 'As charts' : 'As tables'}
        </Button>
      }
    >
      <BlockSheet>
        <div className="grid grid-cols-[minmax(0,1fr)] gap-4 px-3 py-2 md:grid-cols-2">
          {asTables ? <Tables figures={data} missing={missing} /> : <Charts figures={data} missing={missing} />}
        </div>
      </BlockSheet>
    </DeskBlock>
  );
}

interface Shown {
  readonly figures: AllFigures;
  readonly missing: ReadonlyMap<string, number>;
}

function Charts({ figures, missing }: Shown) {
  const router = useRouter();
  const months = figures.growth.map(({ month }) => month);
  const filed = months.map((month) => ({
    month,
    ...Object.fromEntries(
      figures.filed.flatMap((each) => (each.month === month ? [[each.seriesId, each.papers]] : [])),
    ),
  }));
  const gaps = months.map((month) => ({ month, papers: missing.get(month) ?? 0 }));
  const kinds = figures.kinds.slice(0, mostKinds);
  const tip = {
    contentStyle: { fontSize: 12, background: 'var(--color-sheet)', borderColor: 'var(--color-line)' },
    labelFormatter: (month: unknown) => longMonth(String(month)),
    cursor: { fill: 'var(--color-fog)' },
    isAnimationActive: false,
  };
  return (
    <>
      <Chart title="Filed by month and series">
        <BarChart data={filed} accessibilityLayer={false}>
          <XAxis dataKey="month" tickFormatter={shortMonth} tick={axis} stroke="var(--color-line)" />
          <YAxis width={32} allowDecimals={false} tick={axis} stroke="var(--color-line)" />
          <Tooltip {...tip} />
          <Legend iconType="square" iconSize={8} wrapperStyle={{ fontSize: 11 }} />
          {figures.series.map(({ id, name }, at) => (
            <Bar
              key={id}
              dataKey={id}
              name={name}
              stackId="series"
              fill={shades[at % shades.length] ?? ''}
              isAnimationActive={false}
              className="cursor-pointer"
              onClick={(bar) => {
                const { month } = (bar as { payload?: { month?: string } }).payload ?? {};
                if (month !== undefined)
                  router.push(
                    `/place/${id}?${new URLSearchParams({ view: 'plain', below: 'true', if: JSON.stringify([{ of: 'filedAt', anyOf: [month] }]) }).toString()}`,
                  );
              }}
            />
          ))}
        </BarChart>
      </Chart>
      <Chart title="Kinds of file">
        <BarChart data={kinds} layout="vertical" accessibilityLayer={false}>
          <XAxis type="number" allowDecimals={false} tick={axis} stroke="var(--color-line)" />
          <YAxis type="category" dataKey="stamp" width={56} interval={0} tick={axis} stroke="var(--color-line)" />
          <Tooltip {...tip} labelFormatter={(stamp: unknown) => String(stamp)} />
          <Bar
            dataKey="papers"
            name="papers"
            fill="var(--color-brine)"
            isAnimationActive={false}
            className="cursor-pointer"
            onClick={(bar) => {
              const { stamp } = (bar as { payload?: { stamp?: string } }).payload ?? {};
              if (stamp !== undefined) router.push(ofKind(stamp));
            }}
          />
        </BarChart>
      </Chart>
      <Chart title="Papers in the library">
        <AreaChart data={[...figures.growth]} accessibilityLayer={false}>
          <XAxis dataKey="month" tickFormatter={shortMonth} tick={axis} stroke="var(--color-line)" />
          <YAxis width={44} allowDecimals={false} tick={axis} stroke="var(--color-line)" />
          <Tooltip {...tip} />
          <Area
            dataKey="papers"
            name="papers"
            stroke="var(--color-brine)"
            fill="var(--color-brine-wash)"
            isAnimationActive={false}
          />
        </AreaChart>
      </Chart>
      <Chart title="Missing, by the month in which it was due">
        <BarChart
          data={gaps}
          accessibilityLayer={false}
          className="cursor-pointer"
          onClick={() => router.push('/gaps')}
        >
          <XAxis dataKey="month" tickFormatter={shortMonth} tick={axis} stroke="var(--color-line)" />
          <YAxis width={32} allowDecimals={false} tick={axis} stroke="var(--color-line)" />
          <Tooltip {...tip} />
          <Bar dataKey="papers" name="missing" fill="var(--color-ember)" isAnimationActive={false} />
        </BarChart>
      </Chart>
    </>
  );
}

const Chart = ({ title, children }: { readonly title: string; readonly children: React.ReactElement }) => (
  <figure aria-label={title} className="min-w-0">
    <figcaption className="mb-1 text-sm font-semibold text-soft">{title}</figcaption>
    <div aria-hidden style={{ height }}>
      <ResponsiveContainer width="100%" height="100%">
        {children}
      </ResponsiveContainer>
    </div>
  </figure>
);

function Tables({ figures, missing }: Shown) {
  const named = new Map(figures.series.map(({ id, name }) => [id, name]));
  return (
    <>
      <Table
        title="Filed by month"
        rows={figures.growth.map(({ month }) => {
          const here = figures.filed.filter((each) => each.month === month);
          const papers = here.reduce((sum, each) => sum + each.papers, 0);
          const split = here.map((each) => `${named.get(each.seriesId) ?? ''} ${each.papers}`).join(', ');
          return { name: longMonth(month), amount: papers, address: filedIn(month), title: split };
        })}
      />
      <Table
        title="Kinds of file"
        rows={figures.kinds.map(({ stamp, papers }) => ({ name: stamp, amount: papers, address: ofKind(stamp) }))}
      />
      <Table
        title="Papers in the library at the end of the month"
        rows={figures.growth.map(({ month, papers }) => ({ name: longMonth(month), amount: papers, address: null }))}
      />
      <Table
        title="Missing, by the month in which it was due"
        rows={[...missing]
          .sort()
          .map(([month, papers]) => ({ name: longMonth(month), amount: papers, address: '/gaps' }))}
      />
    </>
  );
}

interface Row {
  readonly name: string;
  readonly amount: number;
  readonly address: string | null;
  readonly title?: string;
}

const Table = ({ title, rows }: { readonly title: string; readonly rows: readonly Row[] }) => (
  <table className="self-start text-sm">
    <caption className="mb-1 text-left font-semibold text-soft">{title}</caption>
    <tbody>
      {rows.map(({ name, amount, address, title: about }) => (
        <tr key={name} className="border-t border-line" title={about}>
          <th scope="row" className="text-left font-normal">
            {address === null ? (
              name
            ) : (
              <Link href={address} className="hover:underline">
                {name}
              </Link>
            )}
          </th>
          <td className="figures text-right">{amount.toLocaleString('en-GB')}</td>
        </tr>
      ))}
    </tbody>
  </table>
);
