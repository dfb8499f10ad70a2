/** One difference. `about` is an id, `says` what was found and what should be there. */
export interface Difference {
  readonly of: 'tree' | 'memberships' | 'access' | 'given' | 'counts' | 'content' | 'words' | 'tally' | 'journal';
  readonly about: string;
  readonly says: string;
}

/** How much is checked: the bytes of all content only on request. */
export interface Depth {
  readonly contentBytes: boolean;
}
