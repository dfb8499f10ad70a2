'use client';

import { useMemo } from 'react';
import type { Label } from '@/core/labels/model';
import { useAsk } from '../server/useCall';

/** The labels this person may know of, by id. */
export function useLabels(): ReadonlyMap<string, Label> {
  const { data } = useAsk('labels.all', {});
  return useMemo(() => new Map(data?.map((label) => [label.id, label]) ?? []), [data]);
}
