'use client';

import { useState } from 'react';
import { inWords } from '@/core/columns/format';
import type { Lexicon } from '@/core/columns/lexicon';
import type { Column } from '@/core/columns/model';
import type { Suggestion } from '@/core/columns/suggest';
import { counted } from '@/core/text/measure';
import { namesFrom } from './useColumns';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { sendable, useValueActs } from './useValueActs';

interface Props {
  readonly documentIds: readonly string[];
  readonly columns: readonly Column[];
  readonly lexicons: ReadonlyMap<string, Lexicon>;
  readonly onClose: () => void;
}

/** Suggested values with their reasons, accepted one by one or all that are ticked. */
export function SuggestDialog({ documentIds, columns, lexicons, onClose }: Props) {
  const { data, error } = useAsk('values.suggest', { documentIds: [...documentIds] });
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const setCells = useAct('papers.setCells');
  const { told } = useValueActs();
  const columnOf = (id: string) => columns.find((column) => column.id === id);
  const names = namesFrom(lexicons, data?.names ?? {});
  const rows = (data?.papers ?? []).filter((paper) => paper.suggestions.length > 0);
  const keyOf = (documentId: string, suggestion: Suggestion) => `${documentId} ${suggestion.columnId}`;
  const taken = rows.flatMap((paper) =>
    paper.suggestions.filter((each) => !left.has(keyOf(paper.documentId, each))).map((each) => ({ paper, each })),
  );

  function take() {
    const cells = taken.map(({ paper, each: { columnId, value } }) => ({
      documentId: paper.documentId,
      columnId,
      value: sendable(value),
      was: null,
    }));
    setCells.mutate(
      { cells },
      {
        onSuccess: ({ entryId, outcomes }) => {
          const saved = outcomes.filter((each) => each.state === 'saved').length;
          if (saved < outcomes.length)
            say.refusal(
              `${counted(outcomes.length - saved, 'suggestion')} could not be taken: the values changed meanwhile.`,
            );
          told(`${counted(saved, 'suggested value')} taken`, entryId);
          onClose();
        },
      },
    );
  }

  return (
    <Dialog
      title="Suggested values"
      about="From names, places, and how like-named papers were described. Nothing is written until you take it."
      shape="wide"
      open
      onClose={onClose}
    >
      {error && <p role="alert">{saysOf(error)}</p>}
      {!data && !error && <p aria-busy>Looking at the names…</p>}
      {data && rows.length === 0 && <p className="text-soft">There is nothing to suggest.</p>}
      <ul>
        {rows.map((paper) => (
          <li key={paper.documentId} className="border-b border-line py-1.5 last:border-0">
            <p className="truncate font-medium">{paper.title}</p>
            {paper.suggestions.map((each) => {
              const column = columnOf(each.columnId);
              const key = keyOf(paper.documentId, each);
              return (
                column && (
                  <label key={each.columnId} className="flex items-baseline gap-2 py-0.5">
                    <input
                      type="checkbox"
                      checked={!left.has(key)}
                      onChange={() =>
                        setLeft(new Set(left.has(key) ? [...left].filter((one) => one !== key) : [...left, key]))
                      }
                      className="size-[14px] accent-brine"
                    />
                    <span className="w-28 shrink-0 text-soft">{column.name}</span>
                    <span>{inWords(column, each.value, names)}</span>
                    <span className="ml-auto text-sm text-soft">{each.because}</span>
                  </label>
                )
              );
            })}
          </li>
        ))}
      </ul>
      <DialogActs>
        {taken.length > 0 && (
          <Button look="main" disabled={setCells.isPending} onClick={take}>
            Take {counted(taken.length, 'suggestion')}
          </Button>
        )}
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
