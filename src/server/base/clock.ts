import { AsyncLocalStorage } from 'node:async_hooks';

const moment = new AsyncLocalStorage<Date>();

/** The current time: the machine's, or the one set by `atMoment`. */
export const now = (): Date => moment.getStore() ?? new Date();

/** Runs work with the clock set to a given time: for the demo library's past years, and for tests. */
export const atMoment = <T>(at: Date, work: () => Promise<T>): Promise<T> => moment.run(at, work);
