'use client';

import type { Actable, ActOnSeveral } from '@/core/documents/contract';
import { counted } from '@/core/text/measure';
import { useAsk } from '../server/useCall';

interface Named {
  readonly id: string;
  readonly title: string;
}

/** Of some papers, those with which an act can be done, and how many the rest are and why. Null while that is being asked. */
export interface Sorted<Paper> {
  readonly may: readonly Paper[];
  readonly not: Actable['not'];
}

/** Sorts papers by whether an act can be done with them. */
export function useActable<Paper extends Named>(
  papers: readonly Paper[],
  act: ActOnSeveral,
  enabled = true,
): Sorted<Paper> | null {
  const { data } = useAsk('papers.actable', { documentIds: papers.map(({ id }) => id), act }, { enabled });
  if (!data) return null;
  const may = new Set(data.may);
  return { may: papers.filter(({ id }) => may.has(id)), not: data.not };
}

const reasons: readonly (readonly [keyof Actable['not'], string])[] = [
  ['locked', 'locked, or in a locked place'],
  ['closed', 'in a closed place'],
  ['notAllowed', 'not for you to do this with'],
  ['gone', 'no longer there, or not open to you'],
];

/** How many papers an act leaves as they are, and why; nothing where it can be done with all of them. */
export function NotAll({ sorted, total }: { readonly sorted: Sorted<Named>; readonly total: number }) {
  const left = total - sorted.may.length;
  if (left === 0) return null;
  return (
    <div role="status" className="mb-3 rounded-sm border border-straw-edge bg-straw px-4 py-2 text-straw-ink">
      <p className="font-semibold">
        {sorted.may.length === 0
          ? 'This cannot be done with any of them.'
          : `${counted(left, 'paper')} of ${total.toLocaleString('en-GB')} will stay as ${left === 1 ? 'it is' : 'they are'}.`}
      </p>
      <ul className="text-sm">
        {reasons.map(([reason, words]) =>
          sorted.not[reason] === 0 ? null : (
            <li key={reason} className="figures">
              {sorted.not[reason].toLocaleString('en-GB')} {words}
            </li>
          ),
        )}
      </ul>
    </div>
  );
}
