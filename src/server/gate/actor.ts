import { allCapabilities, has, noCapabilities, type Capability, type CapabilitySet } from '@/core/access/capability';

/** Someone on whose behalf the server acts. Made from a session, a job or a script; never from input. */
export interface Actor {
  readonly personId: string;
  readonly name: string;
  readonly email: string;
  /** Keepers manage all. */
  readonly keeper: boolean;
  /** The session that asks; none where a token, a job or a script does. */
  readonly sessionId?: string;
  /** Set where a program asks with a token: the person's rights, and of them these at most. */
  readonly narrowed?: Narrowed;
  /** Set where someone looks at the library as this person, or group, would: then nothing can be changed. */
  readonly seenBy?: SeenBy;
}

/** Who it is that looks, and all that they are shown: by scope, and never more than seeing and taking copies. */
export interface SeenBy {
  readonly personId: string;
  readonly name: string;
  readonly scopes: ReadonlyMap<string, CapabilitySet>;
  /** Scopes of papers that are open only through a cross-filing. */
  readonly byOpening: ReadonlySet<string>;
}

/** What a token leaves of a person's rights: everywhere for a keeper, and for anyone else where the person has them. */
export interface Narrowed {
  readonly to: CapabilitySet;
  readonly everywhere: boolean;
}

/** What a caller may do everywhere, whatever access sheets say. */
export const everywhere = ({ keeper, narrowed }: Actor): CapabilitySet =>
  keeper ? allCapabilities : narrowed?.everywhere ? narrowed.to : noCapabilities;

/** Whether a caller may see everything. */
export const seesAll = (actor: Actor): boolean => has(everywhere(actor), 'see');

/** A set of capabilities, less what the caller's token leaves out. */
export const leftOf = ({ narrowed }: Actor, set: CapabilitySet): CapabilitySet => (narrowed ? set & narrowed.to : set);

/** Whether a caller can have a capability anywhere at all. */
export const mayEver = (actor: Actor, capability: Capability): boolean =>
  has(leftOf(actor, allCapabilities), capability);
