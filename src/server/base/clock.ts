import { AsyncLocalStorage } from 'node:async_hooks';

const moment = new AsyncLocalStorage<Date>();

/** The moment at which the running act happens: the machine's, or the one that `atMoment` gives. */
export const now = (): Date => moment.getStore() ?? new Date();

/** Runs work as if it happened at a given moment: for the demo library's past years, and for tests. */
export const atMoment = <T>(at: Date, work: () => Promise<T>): Promise<T> => moment.run(at, work);
