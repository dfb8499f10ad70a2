import type { Conditions } from '../views/conditions';
import type { Sort } from '../views/spec';

/** What a link to a view shows: a part of a place, under its own name. */
export interface SharedView {
  readonly name: string;
  readonly below: boolean;
  readonly filter: string;
  readonly conditions: Conditions;
  readonly sorts: readonly Sort[];
}

/** Why a link no longer works; null if it does. */
export type LinkEnd = 'withdrawn' | 'expired' | 'usedUp' | null;

/** Wrong passwords and codes after which a link is blocked for good. */
export const mostWrongTries = 20;

/** How long a visitor can read after opening a link. */
export const visitMs = 12 * 3_600_000;

interface LinkState {
  readonly withdrawn: boolean;
  readonly expiresMs: number;
  readonly mostOpenings: number | null;
  readonly openings: number;
  readonly wrongTries: number;
}

/** Whether, and if not why, a link can no longer be opened. */
export function linkEnd(link: LinkState, nowMs: number): LinkEnd {
  if (link.withdrawn || link.wrongTries >= mostWrongTries) return 'withdrawn';
  if (nowMs >= link.expiresMs) return 'expired';
  return link.mostOpenings !== null && link.openings >= link.mostOpenings ? 'usedUp' : null;
}

/** An outside link, for its maker and for keepers. */
export interface OutsideLinkRow {
  readonly id: string;
  /** The paper or view it shows. */
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
