'use client';

import { useCallback } from 'react';
import type { Value } from '@/core/columns/model';
import { counted } from '@/core/text/measure';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';

type Sent = string | number | boolean | string[] | null;

/** A value as it is sent, as a mutable copy. */
export const sendable = (value: Value | null): Sent =>
  typeof value === 'object' && value !== null ? [...value] : value;
const allSendable = (values: Record<string, Value | null>): Record<string, Sent> =>
  Object.fromEntries(Object.entries(values).map(([id, value]) => [id, sendable(value)]));

/** Sets values, each act with an undo. */
export function useValueActs() {
  const { mutateAsync: doSet, isPending } = useAct('papers.setValues');
  const { mutateAsync: doUndo } = useAct('values.undo');

  const undo = useCallback(
    async (entryId: number) => {
      const { restored, left } = await doUndo({ entryId });
      say.done(
        left === 0
          ? `${counted(restored, 'paper')} as before`
          : `${counted(restored, 'paper')} as before; ${counted(left, 'value')} changed since and stay`,
      );
    },
    [doUndo],
  );

  /** Reports what was changed, with an undo. */
  const told = useCallback(
    (words: string, entryId: number | null) => {
      if (entryId === null) say.done('Nothing changed: the values were so already');
      else say.undoable(words, () => void undo(entryId).catch(() => undefined));
    },
    [undo],
  );

  const set = useCallback(
    async (
      documentIds: readonly string[],
      columnName: string,
      values: Record<string, Value | null>,
      was?: Record<string, Value | null>,
    ) => {
      const done = await doSet({
        documentIds: [...documentIds],
        values: allSendable(values),
        ...(was ? { was: allSendable(was) } : {}),
      }).catch(() => null);
      if (!done) return false;
      const fixed = done.fixed > 0 ? `; ${counted(done.fixed, 'paper')} have it from their place` : '';
      told(`${columnName} set on ${counted(done.changed, 'paper')}${fixed}`, done.entryId);
      return true;
    },
    [doSet, told],
  );

  return { set, undo, told, isPending };
}
