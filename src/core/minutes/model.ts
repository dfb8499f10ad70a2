/** What an item of an agenda came to. */
export const outcomeKinds = ['decision', 'action'] as const;
export type OutcomeKind = (typeof outcomeKinds)[number];
/** The kinds in words, as minutes print them. Common practice, no source. */
export const outcomeKindWords: Readonly<Record<OutcomeKind, string>> = { decision: 'Decision', action: 'Action' };

/** A decision or an action has so many characters at most. */
export const mostOutcomeLength = 2000;
/** And an item so many of them. */
export const mostOutcomes = 100;
