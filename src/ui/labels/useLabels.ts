'use client';

import { useMemo } from 'react';
import type { Label } from '@/core/labels/model';
import { useAsk } from '../server/useCall';

/** Some of the labels, in the order in which they are listed. */
export const labelsAmong = (labels: ReadonlyMap<string, Label>, ids: readonly string[]): readonly Label[] =>
  ids.length === 0 ? none : [...labels.values()].filter((label) => ids.includes(label.id));
const none: readonly Label[] = [];

/** The labels this person may know of, by id. */
export function useLabels(): ReadonlyMap<string, Label> {
  const { data } = useAsk('labels.all', {});
  return useMemo(() => new Map(data?.map((label) => [label.id, label]) ?? []), [data]);
}
