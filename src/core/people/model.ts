/** A person as lists show them. */
export interface PersonRow {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly keeper: boolean;
  readonly active: boolean;
  readonly groups: readonly string[];
}

export interface GroupRow {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly members: readonly { readonly id: string; readonly name: string }[];
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
