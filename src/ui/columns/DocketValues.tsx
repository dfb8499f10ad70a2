'use client';

import { useMemo, useState } from 'react';
import { inWords } from '@/core/columns/format';
import { Lexicon } from '@/core/columns/lexicon';
import type { SharedValue } from '@/core/columns/contract';
import type { Column } from '@/core/columns/model';
import { namesFrom } from './useColumns';
import { Button } from '../kit/button';
import { useAsk } from '../server/useCall';
import { SuggestDialog } from './SuggestDialog';
import { ValueField } from './ValueField';
import { useValueActs } from './useValueActs';

/** The values of the selected papers, each set in one act; values fixed by the place are shown as such. */
export function DocketValues({
  documentIds,
  placeId,
}: {
  readonly documentIds: readonly string[];
  readonly placeId: string;
}) {
  const ids = useMemo(() => [...documentIds].slice(0, 5000), [documentIds]);
  const { data } = useAsk('papers.values', { documentIds: ids }, { keepPrevious: true });
  const { data: at } = useAsk('columns.at', { placeId });
  const { set } = useValueActs();
  const [suggesting, setSuggesting] = useState(false);
  const lexicons = useMemo(() => new Map(at?.lists.map((list) => [list.id, new Lexicon(list.terms)]) ?? []), [at]);
  if (!data || !at || data.columns.length === 0) return null;
  const many = data.papers > 1;
  return (
    <section aria-label="Values" className="border-t border-line px-4 py-3">
      <dl className="grid grid-cols-[106px_minmax(0,1fr)] items-baseline gap-y-0.5">
        {data.columns.map((column) => {
          const shared = data.values.find((each) => each.columnId === column.id);
          return (
            shared && (
              <div key={column.id} className="contents">
                <dt
                  className="truncate text-soft"
                  title={column.help === '' ? column.name : `${column.name}: ${column.help}`}
                >
                  {column.name}
                  {column.required && shared.filled < data.papers && <span className="sr-only"> (needed)</span>}
                </dt>
                <dd className="min-w-0">
                  {shared.fixed === data.papers || !data.mayAmend ? (
                    <Fixed column={column} shared={shared} lexicons={lexicons} names={data.names} />
                  ) : (
                    <ValueField
                      column={column}
                      value={shared.value}
                      instead={
                        shared.state === 'several'
                          ? 'several'
                          : column.required && shared.filled === 0
                            ? 'needed'
                            : undefined
                      }
                      lexicons={lexicons}
                      names={data.names}
                      onSet={(value) =>
                        void set(
                          ids,
                          column.name,
                          { [column.id]: value },
                          many ? undefined : { [column.id]: shared.value },
                        )
                      }
                    />
                  )}
                </dd>
              </div>
            )
          );
        })}
      </dl>
      {data.mayAmend && (
        <Button look="quiet" className="mt-1 -ml-3" onClick={() => setSuggesting(true)}>
          Suggest values
        </Button>
      )}
      {suggesting && (
        <SuggestDialog
          documentIds={ids.slice(0, 500)}
          columns={data.columns}
          lexicons={lexicons}
          onClose={() => setSuggesting(false)}
        />
      )}
    </section>
  );
}

function Fixed({
  column,
  shared,
  lexicons,
  names,
}: {
  readonly column: Column;
  readonly shared: SharedValue;
  readonly lexicons: ReadonlyMap<string, Lexicon>;
  readonly names: Readonly<Record<string, string>>;
}) {
  const words = shared.state === 'several' ? 'several' : inWords(column, shared.value, namesFrom(lexicons, names));
  return (
    <span className="block px-1.5 py-0.5">
      {words === '' ? <span className="text-soft">none</span> : words}
      {shared.fixed > 0 && <span className="text-sm text-soft"> from {shared.fromName ?? 'its place'}</span>}
    </span>
  );
}
