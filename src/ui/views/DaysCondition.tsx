'use client';

import { useState } from 'react';
import { namedSpans, spanUnits, type Span } from '@/core/calendar/period';
import { namedSpanWords } from '@/core/views/words';
import { Button } from '../kit/button';
import { Asking, field, type ConditionProps } from './Asking';

/** Asks for a day or a span of days. */
export function DaysCondition({ condition, sense, onChange, onDone }: ConditionProps) {
  const span = 'span' in condition ? condition.span : null;
  const calendar = span && 'from' in span ? span : { from: null, to: null };
  const near = span && ('next' in span || 'last' in span) ? span : null;
  const [from, setFrom] = useState(calendar.from ?? '');
  const [to, setTo] = useState(calendar.to ?? '');
  const [way, setWay] = useState(near && 'last' in near ? 'last' : 'next');
  const [count, setCount] = useState(String(near ? ('next' in near ? near.next : near.last) : 60));
  const [unit, setUnit] = useState<(typeof spanUnits)[number]>(near?.unit ?? 'day');
  const [wrong, setWrong] = useState<string | null>(null);
  const ask = (next: Span) => {
    setWrong(null);
    onChange({ of: condition.of, span: next });
    onDone();
  };
  const named = namedSpans.filter((each) => each !== 'since-look' || sense === 'moment');
  return (
    <>
      <div className="flex flex-wrap gap-1 border-b border-line p-2.5">
        {named.map((each) => (
          <button
            key={each}
            type="button"
            aria-pressed={span !== null && 'is' in span && span.is === each}
            onClick={() => ask({ is: each })}
            className="rounded-sm border border-line px-1.5 py-0.5 text-sm hover:border-edge aria-pressed:border-brine-ink aria-pressed:bg-brine-wash"
          >
            {namedSpanWords[each]}
          </button>
        ))}
      </div>
      <Asking
        onSubmit={() => {
          const number = Number(count);
          if (!Number.isInteger(number) || number < 1 || number > 10_000)
            return setWrong('A whole number from 1 to 10,000.');
          ask(way === 'last' ? { last: number, unit } : { next: number, unit });
        }}
      >
        <select
          aria-label="Next or last"
          value={way}
          onChange={(event) => setWay(event.target.value)}
          className={field}
        >
          <option value="next">in the next</option>
          <option value="last">in the last</option>
        </select>
        <input
          aria-label="How many"
          inputMode="numeric"
          value={count}
          onChange={(event) => setCount(event.target.value)}
          className={`${field} figures w-14`}
        />
        <select
          aria-label="Days, weeks, months or years"
          value={unit}
          onChange={(event) => setUnit(spanUnits.find((each) => each === event.target.value) ?? 'day')}
          className={field}
        >
          {spanUnits.map((each) => (
            <option key={each} value={each}>
              {each}s
            </option>
          ))}
        </select>
        <Button type="submit" className="h-[28px]!">
          Show
        </Button>
        {wrong !== null && (
          <p role="alert" className="basis-full text-sm text-ember-ink">
            {wrong}
          </p>
        )}
      </Asking>
      <Asking onSubmit={() => ask({ from: from === '' ? null : from, to: to === '' ? null : to })}>
        <input
          type="date"
          aria-label="From the day"
          value={from}
          onChange={(event) => setFrom(event.target.value)}
          className={`${field} w-[104px] px-1`}
        />
        <input
          type="date"
          aria-label="To the day"
          value={to}
          onChange={(event) => setTo(event.target.value)}
          className={`${field} w-[104px] px-1`}
        />
        <Button type="submit" className="h-[28px]! px-2!">
          Show
        </Button>
      </Asking>
    </>
  );
}
