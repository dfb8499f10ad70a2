import type { Capability } from '../access/capability';

/** Events of the sign-in journal. */
export const doorEventNames = [
  'signedIn',
  'provenAgain',
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

/** Each event of the sign-in journal in words. */
export const doorWords: Readonly<Record<DoorEvent, string>> = {
  signedIn: 'Signed in',
  provenAgain: 'Password entered again, to sign a paper',
  halfIn: 'Right password, the code still to come',
  wrongPassword: 'Wrong password',
  wrongCode: 'Wrong code',
  paused: 'Tried again during a pause',
  passwordChanged: 'Password changed',
  passwordRenewed: 'Password renewed by a link in a message',
  twoStepOn: 'Two-step sign-in turned on',
  twoStepOff: 'Two-step sign-in turned off',
  codesMade: 'New recovery codes made',
  sessionEnded: 'A session ended by hand',
  allEnded: 'All sessions ended by hand',
};

/** A line of the sign-in journal. */
export interface DoorLine {
  readonly id: number;
  readonly at: string;
  /** The person's name, or the address that was tried. */
  readonly who: string;
  readonly event: DoorEvent;
  /** The network address. */
  readonly address: string;
  /** The browser, in words. */
  readonly browser: string;
}

/** A session of the caller, as their account page lists it. */
export interface SessionRow {
  readonly id: string;
  /** Whether it is the caller's current session. */
  readonly current: boolean;
  readonly startedAt: string;
  readonly usedAt: string;
  readonly address: string;
  readonly browser: string;
}

/** A token of the caller, as their account page lists it. */
export interface TokenRow {
  readonly id: string;
  readonly name: string;
  readonly capabilities: readonly Capability[];
  readonly expiresAt: string;
  readonly usedAt: string | null;
}

/** Everything about the caller's own account. */
export interface AccountRows {
  readonly twoStep: boolean;
  /** Unused recovery codes. */
  readonly codesLeft: number;
  readonly sessions: readonly SessionRow[];
  readonly tokens: readonly TokenRow[];
  /** The newest twenty. */
  readonly door: readonly DoorLine[];
}
