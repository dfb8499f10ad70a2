/** Which way a list is sorted: `up` has the smallest first. */
export const directions = ['up', 'down'] as const;
export type Direction = (typeof directions)[number];
