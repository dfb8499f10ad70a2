'use client';

import { z } from 'zod';

const kept = z.record(z.string(), z.array(z.string()));
const place = (personId: string): string => `embrin-lately-${personId}`;

function read(personId: string): z.output<typeof kept> {
  if (typeof localStorage === 'undefined') return {};
  try {
    return kept.parse(JSON.parse(localStorage.getItem(place(personId)) ?? '{}'));
  } catch {
    return {};
  }
}

/** The values this person set last in a column, the latest first: those are offered first. */
export const latelyUsed = (personId: string, columnId: string): readonly string[] => read(personId)[columnId] ?? [];

/** Remembers which values a person used last in a column, in this browser. */
export function rememberUse(personId: string, columnId: string, ids: readonly string[]): void {
  const all = read(personId);
  const next = [...new Set([...ids, ...(all[columnId] ?? [])])].slice(0, 5);
  localStorage.setItem(place(personId), JSON.stringify({ ...all, [columnId]: next }));
}
