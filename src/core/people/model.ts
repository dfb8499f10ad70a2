/** What someone is in a group. */
export const groupRoles = ['member', 'chair', 'secretary'] as const;
export type GroupRole = (typeof groupRoles)[number];

/** A person as lists show them. */
export interface PersonRow {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly keeper: boolean;
  readonly active: boolean;
  /** Does not belong to the organisation. */
  readonly outside: boolean;
  /** Whether signing in takes a second step. */
  readonly twoStep: boolean;
  /** The groups they belong to today. */
  readonly groups: readonly string[];
}

/** Someone in a group, or a group in it; days are ISO 8601, null without an end. */
export interface TermRow {
  readonly member: { readonly kind: 'person' | 'group'; readonly id: string };
  readonly name: string;
  readonly role: GroupRole;
  readonly from: string | null;
  /** The last day. */
  readonly until: string | null;
  /** Whether it holds today. */
  readonly current: boolean;
}

export interface GroupRow {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly terms: readonly TermRow[];
  /** How many people belong to it today, also by way of groups in it. */
  readonly memberCount: number;
}

export interface InvitationRow {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly expiresAt: string;
}

/** Someone who is signed in. */
export interface Me {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly keeper: boolean;
}
