'use client';

import { Command } from 'cmdk';
import { useState } from 'react';
import type { YearNaming } from '@/core/calendar/filingYear';
import { searchKey } from '@/core/text/fold';
import type { AskedFor } from '@/core/views/conditions';
import type { NamedCounts } from '@/core/views/contract';
import { periodInWords, periodOf, dayNumber } from '@/core/calendar/period';
import { ownWays, ownWayWords } from '@/core/views/own';
import type { Sense } from '@/core/views/sense';
import { Button } from '../kit/button';
import { Asking, field, type ConditionProps } from './Asking';
import { DaysCondition } from './DaysCondition';
import { FindCondition } from './FindCondition';

/** What can be asked of a property, as its kind has it: words, values with counts, a range, days. */
export function ConditionEditor(props: ConditionProps) {
  const { sense, counts, condition } = props;
  const values = valuesOf(counts, sense, props.years);
  return (
    <>
      {(sense === 'text' || sense === 'longText') && <Words {...props} />}
      {sense === 'find' && <FindCondition {...props} />}
      {sense === 'number' && <Range {...props} />}
      {(sense === 'day' || sense === 'moment') && <DaysCondition {...props} />}
      {(sense === 'person' || sense === 'openTo') && <Who {...props} />}
      {values && <Values {...props} values={values} />}
      {!counts && sense !== 'find' && <p className="px-2.5 py-2 text-sm text-soft">Counting…</p>}
      {counts?.kind === 'range' && <Emptiness {...props} none={counts.none} />}
      {'anyOf' in condition && condition.anyOf.length > 0 && (
        <button
          type="button"
          onClick={() => props.onChange({ of: condition.of, anyOf: [] })}
          className="w-full border-t border-line px-2.5 py-1.5 text-left text-sm text-soft hover:text-ink"
        >
          Any value
        </button>
      )}
    </>
  );
}

interface Listed {
  readonly value: AskedFor;
  readonly name: string;
  readonly papers: number;
  readonly depth: number;
}

/** The values to pick from. Days are offered as years, their quarters and months. */
function valuesOf(counts: NamedCounts | undefined, sense: Sense, years: YearNaming): Listed[] | null {
  if (!counts || counts.kind === 'range') return null;
  // All ways are offered, for a view is made before anything is in hand.
  if (counts.kind === 'values' && sense === 'own')
    return ownWays.map((value) => ({
      value,
      name: ownWayWords[value],
      papers: counts.values.find((each) => each.value === value)?.papers ?? 0,
      depth: 0,
    }));
  if (counts.kind === 'values') return counts.values.map((each) => ({ ...each, depth: 0 }));
  const periods = new Map<string, Listed>();
  const looking = { today: 0, ...years };
  for (const month of counts.months) {
    const key = String(month.value);
    const first = dayNumber(`${key}-01`) ?? 0;
    const units = [periodOf(first, 'year', looking), periodOf(first, 'quarter', looking), key];
    units.forEach((period, depth) => {
      const there = periods.get(period);
      const name = periodInWords(period, years);
      periods.set(period, { value: period, name, papers: (there?.papers ?? 0) + month.papers, depth });
    });
  }
  const none =
    counts.none > 0 && sense === 'day' ? [{ value: null, name: 'Empty', papers: counts.none, depth: 0 }] : [];
  return [...periods.values(), ...none];
}

function Values({ condition, counts, values, onChange }: ConditionProps & { readonly values: readonly Listed[] }) {
  const [words, setWords] = useState('');
  const key = searchKey(words);
  const found = values.filter((each) => searchKey(each.name).includes(key));
  const picked = 'anyOf' in condition ? condition.anyOf : [];
  const more = counts?.kind === 'values' ? counts.more : 0;
  function pick(value: AskedFor) {
    onChange({
      of: condition.of,
      anyOf: picked.includes(value) ? picked.filter((each) => each !== value) : [...picked, value],
    });
  }
  return (
    <Command shouldFilter={false} label="Values" className="flex flex-col">
      <Command.Input
        autoFocus
        value={words}
        onValueChange={setWords}
        placeholder="Type to find"
        className="h-[34px] border-b border-line bg-sheet px-2.5 placeholder:text-soft"
      />
      <Command.List className="max-h-[264px] overflow-y-auto p-1">
        {found.length === 0 && <p className="px-2 py-2 text-sm text-soft">No values here.</p>}
        {found.map(({ value, name, papers, depth }) => (
          <Command.Item
            key={JSON.stringify(value)}
            value={JSON.stringify(value)}
            onSelect={() => pick(value)}
            style={{ paddingLeft: 8 + (key === '' ? depth * 14 : 0) }}
            className="flex cursor-pointer items-center gap-2 rounded-sm py-1 pr-2 data-[selected=true]:bg-brine-wash"
          >
            <input
              type="checkbox"
              readOnly
              tabIndex={-1}
              aria-hidden
              checked={picked.includes(value)}
              className="size-[14px] accent-brine"
            />
            <span className={`truncate ${value === null ? 'text-soft' : ''}`}>{name}</span>
            <span className="figures ml-auto text-sm text-soft">{papers.toLocaleString('en-GB')}</span>
          </Command.Item>
        ))}
        {more > 0 && (
          <p className="px-2 py-1.5 text-sm text-soft">
            {more.toLocaleString('en-GB')} more values. Other conditions bring them nearer.
          </p>
        )}
      </Command.List>
    </Command>
  );
}

function Words({ condition, onChange, onDone }: ConditionProps) {
  const asked = 'text' in condition ? condition : null;
  const [text, setText] = useState<'contains' | 'starts'>(asked?.text ?? 'contains');
  const [words, setWords] = useState(asked?.words ?? '');
  return (
    <Asking
      onSubmit={() => {
        if (words.trim() === '') return;
        onChange({ of: condition.of, text, words: words.trim() });
        onDone();
      }}
    >
      <select
        aria-label="How the words are looked for"
        value={text}
        onChange={(event) => setText(event.target.value === 'starts' ? 'starts' : 'contains')}
        className={field}
      >
        <option value="contains">has</option>
        <option value="starts">begins with</option>
      </select>
      <input
        aria-label="Words"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        className={`${field} flex-1`}
      />
      <Button type="submit" className="h-[28px]!">
        Show these
      </Button>
    </Asking>
  );
}

/** A number as typed, or null for an empty field; undefined for what is no number. */
function typed(text: string): number | null | undefined {
  const plain = text.trim().replaceAll(',', '');
  if (plain === '') return null;
  const number = Number(plain);
  return Number.isFinite(number) ? number : undefined;
}

function Range({ condition, counts, onChange, onDone }: ConditionProps) {
  const asked = 'from' in condition ? condition : null;
  const [from, setFrom] = useState(asked?.from?.toString() ?? '');
  const [to, setTo] = useState(asked?.to?.toString() ?? '');
  const [wrong, setWrong] = useState(false);
  const words = (number: number | null) => number?.toLocaleString('en-GB') ?? '';
  const least = counts?.kind === 'range' ? counts.least : null;
  const most = counts?.kind === 'range' ? counts.most : null;
  return (
    <Asking
      onSubmit={() => {
        const [low, high] = [typed(from), typed(to)];
        if (low === undefined || high === undefined) return setWrong(true);
        setWrong(false);
        onChange({ of: condition.of, from: low, to: high });
        onDone();
      }}
    >
      <input
        aria-label="From"
        autoFocus
        inputMode="decimal"
        placeholder={words(least)}
        value={from}
        onChange={(event) => setFrom(event.target.value)}
        className={`${field} figures w-20`}
      />
      <span className="text-sm text-soft">to</span>
      <input
        aria-label="To"
        inputMode="decimal"
        placeholder={words(most)}
        value={to}
        onChange={(event) => setTo(event.target.value)}
        className={`${field} figures w-20`}
      />
      <Button type="submit" className="h-[28px]!">
        Show these
      </Button>
      {wrong && (
        <p role="alert" className="basis-full text-sm text-ember-ink">
          Numbers only: 12 or 12.50.
        </p>
      )}
    </Asking>
  );
}

function Who({ condition, onChange }: ConditionProps) {
  const asked = 'who' in condition ? condition.who : [];
  const switched = (who: 'me' | 'my-groups') => {
    const next = asked.includes(who) ? asked.filter((each) => each !== who) : [...asked, who];
    onChange(next.length === 0 ? { of: condition.of, anyOf: [] } : { of: condition.of, who: next });
  };
  return (
    <div className="flex gap-4 border-b border-line p-2.5 text-sm">
      {(['me', 'my-groups'] as const).map((who) => (
        <label key={who} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={asked.includes(who)}
            onChange={() => switched(who)}
            className="size-[14px] accent-brine"
          />
          {who === 'me' ? 'Me' : 'Someone in my groups'}
        </label>
      ))}
    </div>
  );
}

function Emptiness({ condition, none, onChange, onDone }: ConditionProps & { readonly none: number }) {
  const asked = 'filled' in condition ? condition.filled : null;
  const ask = (filled: boolean) => {
    onChange({ of: condition.of, filled });
    onDone();
  };
  return (
    <div className="p-2.5">
      <div className="flex gap-1.5">
        <Button aria-pressed={asked === true} onClick={() => ask(true)} className="h-[26px]!">
          Filled in
        </Button>
        <Button aria-pressed={asked === false} onClick={() => ask(false)} className="h-[26px]!">
          Empty ({none.toLocaleString('en-GB')})
        </Button>
      </div>
    </div>
  );
}
