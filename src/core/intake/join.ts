import type { Turn } from './cut';

/** An arrival whose pages go into a paper with those of others. */
export interface Joined {
  readonly arrivalId: string;
  /** How all its pages are turned. */
  readonly turn: Turn;
}

/** How arrivals become one: which, in their order, and the arrival that they become. */
export interface Joining {
  readonly into: string;
  readonly order: readonly Joined[];
}

/** So many arrivals are joined at most, and so many files put in at once. */
export const mostJoined = 100;
