import type { CapabilitySet } from '@/core/access/capability';

/** Someone on whose behalf the server acts. Made from a session, a job or a script; never from input. */
export interface Actor {
  readonly personId: string;
  readonly name: string;
  readonly email: string;
  /** Keepers manage all. */
  readonly keeper: boolean;
  /** Set where someone looks at the library as this person, or group, would: then nothing can be changed. */
  readonly seenBy?: SeenBy;
}

/** Who it is that looks, and all that they are shown: by scope, and never more than seeing and taking copies. */
export interface SeenBy {
  readonly personId: string;
  readonly name: string;
  readonly scopes: ReadonlyMap<string, CapabilitySet>;
}
