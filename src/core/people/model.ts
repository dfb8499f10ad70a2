/** Roles in a group. */
export const groupRoles = ['member', 'chair', 'secretary'] as const;
export type GroupRole = (typeof groupRoles)[number];

/** A person as lists show them. */
export interface PersonRow {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly keeper: boolean;
  readonly active: boolean;
  /** Not part of the organisation. */
  readonly outside: boolean;
  /** Whether sign-in needs a second step. */
  readonly twoStep: boolean;
  /** The groups they belong to today. */
  readonly groups: readonly string[];
}

/** A person or group in a group; days are ISO 8601, null is unlimited. */
export interface TermRow {
  readonly member: { readonly kind: 'person' | 'group'; readonly id: string };
  readonly name: string;
  readonly role: GroupRole;
  readonly from: string | null;
  /** The last day. */
  readonly until: string | null;
  /** Whether it is in force today. */
  readonly current: boolean;
}

/** A group, as the page of people lists it. */
export interface GroupRow {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly terms: readonly TermRow[];
  /** How many people belong to it today, including through nested groups. */
  readonly memberCount: number;
}

/** An invitation that has not been used yet. */
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
