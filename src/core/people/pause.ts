/**
 * When an account, or a network address, is not let in for a while. Pauses rather than locks, so that nobody can be kept
 * out for good by a stranger who knows their address; the hundred is the ceiling of NIST SP 800-63B-4, section 3.2.2,
 * after which only a renewed password opens the account again. Ten and a quarter of an hour are common practice, no source.
 */
export const pauseRule = { wrongTries: 10, wrongTriesFromOneAddress: 50, withinMs: 15 * 60_000, wrongTriesInAll: 100 };

/** `until` is epoch milliseconds; null where it takes a renewed password. */
export type Pause = { readonly paused: false } | { readonly paused: true; readonly untilMs: number | null };

const open: Pause = { paused: false };

/**
 * Whether an account may be tried.
 * @param wrongMs moments of wrong tries since the account was last entered or renewed, in order; the newest hundred do.
 */
export function pauseOfAccount(wrongMs: readonly number[], nowMs: number): Pause {
  if (wrongMs.length >= pauseRule.wrongTriesInAll) return { paused: true, untilMs: null };
  return pauseAfter(wrongMs, pauseRule.wrongTries, nowMs);
}

/** Whether a network address may try any account. @param wrongMs moments of its wrong tries, in order. */
export const pauseOfAddress = (wrongMs: readonly number[], nowMs: number): Pause =>
  pauseAfter(wrongMs, pauseRule.wrongTriesFromOneAddress, nowMs);

/** Paused while as many tries as that lie within the last quarter of an hour. */
function pauseAfter(wrongMs: readonly number[], tries: number, nowMs: number): Pause {
  const decisive = wrongMs.at(-tries);
  if (decisive === undefined) return open;
  const untilMs = decisive + pauseRule.withinMs;
  return nowMs < untilMs ? { paused: true, untilMs } : open;
}
