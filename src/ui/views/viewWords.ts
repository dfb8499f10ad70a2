'use client';

import { isPaperSignature, paperSignatureWords } from '@/core/documents/signature';
import { useMemo } from 'react';
import { inWords, type Names } from '@/core/columns/format';
import type { Column } from '@/core/columns/model';
import type { Label } from '@/core/labels/model';
import { counted, sizeInWords } from '@/core/text/measure';
import type { NamedCounts } from '@/core/views/contract';
import { isoDay, periodInWords } from '@/core/calendar/period';
import { propertyName, senseOf } from '@/core/views/property';
import type { Measure, Totals } from '@/core/views/question';
import type { ViewSpec } from '@/core/views/spec';
import type { YearNaming } from '@/core/calendar/filingYear';
import type { ConditionWords } from '@/core/views/words';
import { lexiconOf, namesFrom, type ColumnsHere } from '../columns/useColumns';
import type { ChartMeasure } from './CountChart';
import { isOwnWay, ownWayWords } from '@/core/views/own';

/** Choosing columns or an order alone is no view that asks to be saved. */
export const worthSaving = (spec: ViewSpec, plain: ViewSpec): boolean =>
  spec.conditions.length > 0 || spec.groupings.length > 0 || spec.layout !== plain.layout;

/** What is shown, counted: papers, pages, bytes. */
export const totalsInWords = ({ papers, pages, bytes }: Totals): string =>
  [
    counted(papers, 'paper'),
    ...(pages > 0 ? [counted(pages, 'page')] : []),
    ...(papers > 0 ? [sizeInWords(bytes)] : []),
  ].join(' · ');

/** A chart's bars as papers. */
export const papersMeasure: ChartMeasure = {
  name: 'Papers',
  of: (group) => group.totals.papers,
  words: (amount) => amount.toLocaleString('en-GB'),
};

interface TotalWords {
  /** For a line: only what adds up. */
  readonly short: string;
  readonly long: string;
}

/** What some totals say of the columns that are measured. */
export function measuresInWords(
  totals: Totals,
  measures: readonly string[],
  columns: readonly Column[],
  names: Names,
): TotalWords {
  const said = measures.flatMap((id, index) => {
    const column = columns.find((each) => each.id === id);
    const measure = totals.measures[index];
    return column && measure && measure.filled > 0 ? [measureInWords(column, measure, names)] : [];
  });
  return {
    short: said.map(({ short }) => (short === '' ? '' : ` · ${short}`)).join(''),
    long: said.map(({ long }) => long).join('; '),
  };
}

function measureInWords(column: Column, { sum, filled, least, most }: Measure, names: Names): TotalWords {
  const word = (number: number | null): string =>
    number === null ? '' : inWords(column, column.type === 'date' ? isoDay(number) : number, names);
  if (column.type === 'date')
    return {
      short: '',
      long: `${column.name}: from ${word(least)} to ${word(most)}, in ${counted(filled, 'paper')}`,
    };
  // The mean has no more decimals than people write.
  const mean = inWords({ ...column, decimals: column.decimals ?? 2 }, Math.round((sum / filled) * 100) / 100, names);
  return {
    short: `${column.name} ${word(sum)}`,
    long: `${column.name}: ${word(sum)} in all, ${mean} on average, from ${word(least)} to ${word(most)}, in ${counted(filled, 'paper')}`,
  };
}

/** Words for conditions, from the counts at hand and the lists. */
export function useConditionWords(
  columns: readonly Column[],
  lexicons: ColumnsHere['lexicons'],
  counts: Readonly<Record<string, NamedCounts>>,
  labels: ReadonlyMap<string, Label>,
  years: YearNaming,
): ConditionWords {
  return useMemo(
    () => ({
      years,
      property: (of) => propertyName(of, columns),
      value: (of, value) => {
        if (value === null) return 'none';
        if (of === 'label') return labels.get(String(value))?.name ?? null;
        if (of === 'own' && isOwnWay(value)) return ownWayWords[value];
        if (of === 'signature' && isPaperSignature(value)) return paperSignatureWords[value];
        const sense = senseOf(of, columns);
        if (sense === 'day' || sense === 'moment') return periodInWords(String(value), years);
        const listed = counts[of];
        const named = listed?.kind === 'values' ? listed.values.find((each) => each.value === value)?.name : undefined;
        if (named !== undefined) return named;
        const column = columns.find((each) => each.id === of);
        if (!column) return sense === 'number' || of === 'kind' ? String(value) : null;
        const term = lexiconOf(column, lexicons)?.term(String(value));
        if (term) return term.name;
        return column.type === 'person' || column.type === 'dossier' || column.type === 'document'
          ? null
          : inWords(
              { ...column, type: column.type === 'choices' ? 'choice' : column.type },
              value,
              namesFrom(lexicons, {}),
            );
      },
    }),
    [columns, lexicons, counts, labels, years],
  );
}
