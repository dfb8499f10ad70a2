'use client';

import { isListed } from '@/core/columns/model';
import type { OfType } from '@/core/rules/rules';
import { lexiconOf, useColumns } from '../columns/useColumns';
import { ChoiceField } from '../kit/field';

const keyOf = (ofType: OfType | null): string => (ofType === null ? '' : `${ofType.columnId} ${ofType.termId}`);

/** Of which papers of a place a rule is: all, or those with one value of a controlled list. */
export function OfTypeField({
  placeId,
  value,
  onChange,
}: {
  readonly placeId: string;
  readonly value: OfType | null;
  readonly onChange: (ofType: OfType | null) => void;
}) {
  const { columns, lexicons } = useColumns(placeId);
  return (
    <ChoiceField
      label="Of which papers"
      value={keyOf(value)}
      onChange={(event) => {
        const [columnId, termId] = event.target.value.split(' ');
        onChange(columnId && termId ? { columnId, termId } : null);
      }}
    >
      <option value="">All papers</option>
      {columns
        .filter((column) => isListed(column.type))
        .map((column) => (
          <optgroup key={column.id} label={column.name}>
            {(lexiconOf(column, lexicons)?.inOrder() ?? [])
              .filter(({ term }) => !term.retired)
              .map(({ term, depth }) => (
                <option key={term.id} value={keyOf({ columnId: column.id, termId: term.id })}>
                  {`${'\u2003'.repeat(depth)}${term.name}`}
                </option>
              ))}
          </optgroup>
        ))}
    </ChoiceField>
  );
}
