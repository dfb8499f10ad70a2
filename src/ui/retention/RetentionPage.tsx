'use client';

import { parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs';
import { HoldList } from '../holds/HoldList';
import { Tabs } from '../kit/tabs';
import { RunList } from './RunList';
import { RunSheet } from './RunSheet';
import { ScheduleList } from './ScheduleList';

const parts = ['schedule', 'holds', 'disposals'] as const;
const partWords = { schedule: 'Schedule', holds: 'Holds', disposals: 'Disposals' } as const;

/** How long papers are kept: the schedule, the holds, and the disposals by the schedule. For keepers. */
export function RetentionPage() {
  const [{ show, run }, set] = useQueryStates(
    { show: parseAsStringLiteral(parts).withDefault('schedule'), run: parseAsString },
    { history: 'push' },
  );
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      <h1 className="mb-1 font-condensed text-xl">Retention</h1>
      <p className="mb-3 max-w-[80ch] text-soft">
        How long papers are kept, what stops their destruction, and what was destroyed by the schedule.
      </p>
      <Tabs
        label="Parts of retention"
        parts={parts}
        words={partWords}
        shown={show}
        onShow={(part) => void set({ show: part, run: null })}
      />
      {show === 'schedule' && <ScheduleList />}
      {show === 'holds' && <HoldList />}
      {show === 'disposals' &&
        (run === null ? (
          <RunList onOpen={(runId) => void set({ run: runId })} />
        ) : (
          <RunSheet key={run} runId={run} onBack={() => void set({ run: null })} />
        ))}
    </main>
  );
}
