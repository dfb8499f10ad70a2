/**
 * When sign-in attempts are refused for a while, for an account or a network address. Pauses rather than locks, so that a
 * stranger who knows someone's address cannot lock them out for good. A hundred is the limit of NIST SP 800-63B-4,
 * section 3.2.2, after which a new password is needed. Ten attempts and fifteen minutes are common practice, no source.
 */
export const pauseRule = { wrongTries: 10, wrongTriesFromOneAddress: 50, withinMs: 15 * 60_000, wrongTriesInAll: 100 };

/** `untilMs` is epoch milliseconds; null if a new password is needed. */
export type Pause = { readonly paused: false } | { readonly paused: true; readonly untilMs: number | null };

const open: Pause = { paused: false };

/**
 * Whether an account accepts sign-in attempts.
 * @param wrongMs times of wrong attempts since the last sign-in or new password, in order; the newest hundred are enough
 */
export function pauseOfAccount(wrongMs: readonly number[], nowMs: number): Pause {
  if (wrongMs.length >= pauseRule.wrongTriesInAll) return { paused: true, untilMs: null };
  return pauseAfter(wrongMs, pauseRule.wrongTries, nowMs);
}

/** Whether a network address may try any account. @param wrongMs times of its wrong attempts, in order */
export const pauseOfAddress = (wrongMs: readonly number[], nowMs: number): Pause =>
  pauseAfter(wrongMs, pauseRule.wrongTriesFromOneAddress, nowMs);

/** Paused while that many attempts lie within the last fifteen minutes. */
function pauseAfter(wrongMs: readonly number[], tries: number, nowMs: number): Pause {
  const decisive = wrongMs.at(-tries);
  if (decisive === undefined) return open;
  const untilMs = decisive + pauseRule.withinMs;
  return nowMs < untilMs ? { paused: true, untilMs } : open;
}
