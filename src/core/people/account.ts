import type { Capability } from '../access/capability';

/** What happens to an account at its door, as the sign-in journal keeps it. */
export const doorEventNames = [
  'signedIn',
  'halfIn',
  'wrongPassword',
  'wrongCode',
  'paused',
  'passwordChanged',
  'passwordRenewed',
  'twoStepOn',
  'twoStepOff',
  'codesMade',
  'sessionEnded',
  'allEnded',
] as const;
export type DoorEvent = (typeof doorEventNames)[number];

export const doorWords: Readonly<Record<DoorEvent, string>> = {
  signedIn: 'Signed in',
  halfIn: 'Right password, the code still to come',
  wrongPassword: 'Wrong password',
  wrongCode: 'Wrong code',
  paused: 'Tried again during a pause',
  passwordChanged: 'Password changed',
  passwordRenewed: 'Password renewed by a link in a message',
  twoStepOn: 'Two-step sign-in switched on',
  twoStepOff: 'Two-step sign-in switched off',
  codesMade: 'New recovery codes made',
  sessionEnded: 'A session ended by hand',
  allEnded: 'All sessions ended by hand',
};

/** A line of the sign-in journal. */
export interface DoorLine {
  readonly id: number;
  readonly at: string;
  /** Whose account it is: the person's name, or the address that was tried. */
  readonly who: string;
  readonly event: DoorEvent;
  /** The network address it came from. */
  readonly address: string;
  /** The browser, in words. */
  readonly browser: string;
}

export interface SessionRow {
  readonly id: string;
  /** The one that asks. */
  readonly current: boolean;
  readonly startedAt: string;
  readonly usedAt: string;
  readonly address: string;
  readonly browser: string;
}

export interface TokenRow {
  readonly id: string;
  readonly name: string;
  readonly capabilities: readonly Capability[];
  readonly expiresAt: string;
  readonly usedAt: string | null;
}

/** All that belongs to one's own account. */
export interface AccountRows {
  readonly twoStep: boolean;
  /** Recovery codes that are not used up. */
  readonly codesLeft: number;
  readonly sessions: readonly SessionRow[];
  readonly tokens: readonly TokenRow[];
  /** The last twenty. */
  readonly door: readonly DoorLine[];
}
