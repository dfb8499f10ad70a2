'use client';

import { useCallback, useRef, useState } from 'react';
import type { Column, Value } from '@/core/columns/model';
import type { PaperRow } from '@/core/documents/model';
import type { Cell } from '@/core/columns/grid';
import { counted } from '@/core/text/measure';
import { say } from '../kit/notice';
import { call, saysOf } from '../server/call';
import { sendable } from './useValueActs';

/** The state of a written cell; a refused one keeps the typed text. */
export type CellState =
  | { readonly state: 'saving' }
  | { readonly state: 'saved' }
  | { readonly state: 'refused'; readonly says: string; readonly text: string }
  | { readonly state: 'changed' };

/** What to write into a cell: typed text, or a value. */
export interface Write {
  readonly cell: Cell;
  readonly text?: string;
  readonly value?: Value | null;
}

interface Done {
  readonly entryId: number;
  readonly cells: readonly { readonly key: string; readonly before: Value | null; readonly after: Value | null }[];
}

const keyOf = (documentId: string, columnId: string): string => `${documentId} ${columnId}`;

/** The state of the value editor: values written since the page was loaded, each cell's state, and the acts that can be undone. */
export function useGrid(papers: readonly PaperRow[], columns: readonly Column[]) {
  const [written, setWritten] = useState<ReadonlyMap<string, Value | null>>(new Map());
  const [states, setStates] = useState<ReadonlyMap<string, CellState>>(new Map());
  const [named, setNamed] = useState<Readonly<Record<string, string>>>({});
  const undoable = useRef<Done[]>([]);
  const redoable = useRef<Done[]>([]);
  const busy = useRef<Promise<unknown>>(Promise.resolve());

  const valueAt = useCallback(
    (paper: PaperRow, column: Column): Value | null => {
      const key = keyOf(paper.id, column.id);
      const over = written.get(key);
      return over === undefined ? (paper.values[column.id] ?? null) : over;
    },
    [written],
  );
  const stateAt = (paper: PaperRow, column: Column): CellState | undefined => states.get(keyOf(paper.id, column.id));

  async function write(writes: readonly Write[]): Promise<void> {
    const wanted = writes.flatMap(({ cell, text, value }) => {
      const [paper, column] = [papers[cell.row], columns[cell.column]];
      return paper && column
        ? [{ paper, column, key: keyOf(paper.id, column.id), text, value, before: valueAt(paper, column) }]
        : [];
    });
    if (wanted.length === 0) return;
    setStates((now) => new Map([...now, ...wanted.map(({ key }) => [key, { state: 'saving' } as const] as const)]));
    try {
      const answer = await call('papers.setCells', {
        cells: wanted.map(({ paper, column, text, value, before }) => ({
          documentId: paper.id,
          columnId: column.id,
          ...(text === undefined ? { value: sendable(value ?? null) } : { text }),
          was: sendable(before),
        })),
      });
      setNamed((now) => ({ ...now, ...answer.names }));
      const over = new Map<string, Value | null>();
      const next = new Map<string, CellState>();
      const done: { key: string; before: Value | null; after: Value | null }[] = [];
      for (const [index, outcome] of answer.outcomes.entries()) {
        const each = wanted[index];
        if (!each) continue;
        if (outcome.state === 'refused') next.set(each.key, { ...outcome, text: each.text ?? '' });
        else {
          over.set(each.key, outcome.value);
          next.set(each.key, { state: outcome.state });
          if (outcome.state === 'saved') done.push({ key: each.key, before: each.before, after: outcome.value });
        }
      }
      setWritten((now) => new Map([...now, ...over]));
      setStates((now) => new Map([...now, ...next]));
      if (answer.entryId !== null) {
        undoable.current.push({ entryId: answer.entryId, cells: done });
        redoable.current = [];
      }
      const refused = answer.outcomes.filter((each) => each.state === 'refused').length;
      const changed = answer.outcomes.filter((each) => each.state === 'changed').length;
      if (wanted.length > 1 && refused > 0)
        say.refusal(`${counted(refused, 'cell')} could not be read; what was typed stands in them, with the reason.`);
      if (changed > 0)
        say.refusal(`${counted(changed, 'cell')} had been changed by someone else meanwhile; theirs stand.`);
    } catch (error) {
      const says = saysOf(error);
      setStates(
        (now) =>
          new Map([
            ...now,
            ...wanted.map(({ key, text }) => [key, { state: 'refused', says, text: text ?? '' } as const] as const),
          ]),
      );
      say.refusal(says);
    }
  }

  async function back(from: Done[], to: Done[], restores: 'before' | 'after'): Promise<void> {
    const act = from.pop();
    if (!act) return;
    try {
      const { entryId } = await call('values.undo', { entryId: act.entryId });
      setWritten((now) => new Map([...now, ...act.cells.map((cell) => [cell.key, cell[restores]] as const)]));
      setStates((now) => new Map([...now].filter(([key]) => !act.cells.some((cell) => cell.key === key))));
      if (entryId !== null) to.push({ ...act, entryId });
    } catch (error) {
      say.refusal(saysOf(error));
    }
  }
  // In sequence, so that an undo cannot overtake the write it undoes.
  const queued = (work: () => Promise<void>) => {
    busy.current = busy.current.then(work);
    return busy.current;
  };

  return {
    valueAt,
    stateAt,
    named,
    write: (writes: readonly Write[]) => queued(() => write(writes)),
    undo: () => queued(() => back(undoable.current, redoable.current, 'before')),
    redo: () => queued(() => back(redoable.current, undoable.current, 'after')),
  };
}
