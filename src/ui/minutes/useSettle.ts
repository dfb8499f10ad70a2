'use client';

import type { OutcomeRow } from '@/core/minutes/contract';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';

/** Says that an action is done, or open again; either can be undone. */
export function useSettle() {
  const { mutate, isPending } = useAct('action.settle');
  return {
    isPending,
    settle({ id: outcomeId, text }: Pick<OutcomeRow, 'id' | 'text'>, done: boolean) {
      mutate(
        { outcomeId, done, remark: '' },
        {
          onSuccess: () =>
            say.undoable(done ? `“${shortened(text)}” is done` : `“${shortened(text)}” is open again`, () =>
              mutate({ outcomeId, done: !done, remark: '' }),
            ),
        },
      );
    },
  };
}

const shortened = (text: string): string => (text.length > 60 ? `${text.slice(0, 58)}…` : text);
