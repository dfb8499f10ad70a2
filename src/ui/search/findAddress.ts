import type { FindCondition } from '@/core/views/conditions';

/** The condition that looks for words everywhere in papers. */
export const findCondition = (find: string): FindCondition => ({ of: 'find', find, among: 'everything' });

/** The address of what words find, in a place and below it or in the whole library. */
export const findAddress = (words: string, placeId: string | null = null): string =>
  `/find?${new URLSearchParams({
    ...(placeId === null ? {} : { in: placeId }),
    if: JSON.stringify([findCondition(words)]),
  }).toString()}`;
