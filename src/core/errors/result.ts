import type { Issue } from './issue';

/** A result of core where a person can cause a refusal; misuse by code throws instead. */
export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly issue: Issue };

/** A result that succeeded. */
export const good = <T>(value: T): Result<T> => ({ ok: true, value });
/** A result that was refused. */
export const bad = (issue: Issue): Result<never> => ({ ok: false, issue });
