'use client';

import type { Rack } from '@/core/expected/contract';
import { isColleague } from '@/core/dossiers/details';
import { rackOrders, rackShows, type RackOrder, type RackShow } from '@/core/expected/rackOrder';
import { naturalCompare } from '@/core/text/natural';
import type { useRack } from './useRack';

const showWords: Record<RackShow, string> = {
  expected: 'Expected papers',
  papers: 'Papers',
  pages: 'Pages',
  filed: 'Last filed',
  size: 'Size',
};
const orderWords: Record<RackOrder, string> = {
  keeper: 'The order for everyone',
  name: 'Name',
  reference: 'Reference',
  papers: 'Most papers',
  gaps: 'Most gaps',
};

const control = 'h-[28px] max-w-44 rounded-sm border border-edge bg-sheet px-1.5 text-sm';

/** What a rack shows, in which order, and of which dossiers. */
export function RackToolbar({
  rack,
  state,
  setState,
  words,
}: Pick<ReturnType<typeof useRack>, 'state' | 'setState'> & { readonly rack: Rack; readonly words: string }) {
  const picked = rack.fields.filter((field) => field.kind === 'choice' || isColleague(field.kind));
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line bg-sheet px-4 py-1.5">
      <input
        type="search"
        aria-label="Find a dossier"
        placeholder="Dossier, reference, detail"
        value={state.find}
        onChange={(event) => void setState({ find: event.target.value })}
        className={`${control} w-44 placeholder:text-soft`}
      />
      {picked.map((field) => {
        const values = [...new Set(rack.rows.flatMap((row) => row.details[field.id] || []))];
        if (values.length < 2) return null;
        const named = values
          .map((value) => ({ value, name: rack.names[value] ?? value }))
          .sort((a, b) => naturalCompare(a.name, b.name));
        const now = state.with?.[field.id] ?? '';
        return (
          <Select
            key={field.id}
            label={field.name}
            value={now}
            options={[{ value: '', name: 'any' }, ...named]}
            onChange={(value) => {
              const next = Object.fromEntries(
                Object.entries({ ...state.with, [field.id]: value }).filter(([, each]) => each !== ''),
              );
              void setState({ with: Object.keys(next).length === 0 ? null : next });
            }}
          />
        );
      })}
      <label className="flex items-center gap-1.5 text-sm">
        <input
          type="checkbox"
          checked={state.gaps}
          onChange={(event) => void setState({ gaps: event.target.checked || null })}
          className="size-[14px] accent-brine"
        />
        Only with gaps
      </label>
      <Select
        label="Order"
        value={state.rows}
        options={rackOrders.map((value) => ({ value, name: orderWords[value] }))}
        onChange={(value) => void setState({ rows: rackOrders.find((each) => each === value) ?? null })}
      />
      <Select
        label="Show"
        value={state.show}
        options={rackShows.map((value) => ({ value, name: showWords[value] }))}
        onChange={(value) => void setState({ show: rackShows.find((each) => each === value) ?? null })}
      />
      <span className="figures ml-auto text-sm text-soft" role="status">
        {words}
      </span>
    </div>
  );
}

function Select({
  label,
  value,
  options,
  onChange,
}: {
  readonly label: string;
  readonly value: string;
  readonly options: readonly { readonly value: string; readonly name: string }[];
  readonly onChange: (value: string) => void;
}) {
  return (
    <label className="flex items-center gap-1.5 text-sm text-soft">
      {label}
      <select value={value} onChange={(event) => onChange(event.target.value)} className={`${control} text-ink`}>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.name}
          </option>
        ))}
      </select>
    </label>
  );
}
