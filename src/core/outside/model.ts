import type { Conditions } from '../views/conditions';
import type { Sort } from '../views/spec';

/** What an outside link to a view shows: a slice of a place, by its own name. */
export interface SharedView {
  readonly name: string;
  readonly below: boolean;
  readonly filter: string;
  readonly conditions: Conditions;
  readonly sorts: readonly Sort[];
}

/** Why a link lets nobody in any more; null where it does. */
export type LinkEnd = 'withdrawn' | 'expired' | 'usedUp' | null;

/** Wrong passwords and codes after which a link is shut for good: it was guessed at. */
export const mostWrongTries = 20;

/** How long a visitor who has opened a link may go on reading without opening it again. */
export const visitMs = 12 * 3_600_000;

interface LinkState {
  readonly withdrawn: boolean;
  readonly expiresMs: number;
  readonly mostOpenings: number | null;
  readonly openings: number;
  readonly wrongTries: number;
}

/** Whether a link can be opened once more. */
export function linkEnd(link: LinkState, nowMs: number): LinkEnd {
  if (link.withdrawn || link.wrongTries >= mostWrongTries) return 'withdrawn';
  if (nowMs >= link.expiresMs) return 'expired';
  return link.mostOpenings !== null && link.openings >= link.mostOpenings ? 'usedUp' : null;
}

/** An outside link as those see it who made it or keep the library. */
export interface OutsideLinkRow {
  readonly id: string;
  /** The paper or view it opens. */
  readonly name: string;
  readonly on: { readonly kind: 'paper' | 'place'; readonly id: string };
  readonly email: string | null;
  readonly hasPassword: boolean;
  readonly copies: boolean;
  readonly expiresAt: string;
  readonly mostOpenings: number | null;
  readonly openings: number;
  readonly lastOpenedAt: string | null;
  readonly madeBy: string;
  readonly madeAt: string;
  readonly ended: LinkEnd;
}
