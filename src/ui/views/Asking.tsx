'use client';

import { type ReactNode } from 'react';
import type { YearNaming } from '@/core/calendar/filingYear';
import type { Condition } from '@/core/views/conditions';
import type { NamedCounts } from '@/core/views/contract';
import type { Sense } from '@/core/views/sense';

/** What every editor of a condition takes. */
export interface ConditionProps {
  readonly condition: Condition;
  readonly sense: Sense;
  readonly counts: NamedCounts | undefined;
  readonly years: YearNaming;
  readonly onChange: (next: Condition) => void;
  readonly onDone: () => void;
}

/** The look of its fields. */
export const field = 'h-[28px] min-w-0 rounded-sm border border-edge bg-sheet px-2 text-sm';

/** A form that asks when Enter is pressed. */
export const Asking = ({ onSubmit, children }: { readonly onSubmit: () => void; readonly children: ReactNode }) => (
  <form
    className="flex flex-wrap items-center gap-1.5 border-b border-line p-2.5"
    onSubmit={(event) => {
      event.preventDefault();
      onSubmit();
    }}
  >
    {children}
  </form>
);
