/** Where words are looked for: in everything that is known of papers, or in some of it. */
export const amongs = ['everything', 'titles', 'inside', 'values', 'mail'] as const;
export type Among = (typeof amongs)[number];
