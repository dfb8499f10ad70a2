/** One thing that is not as it should be. `about` is an id, `says` what was found there and what should be. */
export interface Difference {
  readonly of: 'tree' | 'memberships' | 'access' | 'given' | 'counts' | 'content' | 'journal';
  readonly about: string;
  readonly says: string;
}

/** How much is looked at: the bytes of all content are read only where that is asked for. */
export interface Depth {
  readonly contentBytes: boolean;
}
