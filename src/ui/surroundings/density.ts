/** How tall a row of papers is, in pixels, by the density a person likes. Here, and not with the client's context, because the server reads it too. */
export const densities = { compact: 34, comfortable: 42 } as const;
export type Density = keyof typeof densities;
/** Light or dark colours, or as the computer is set. */
export type Scheme = 'system' | 'light' | 'dark';

/** The colours that a person has chosen; without a choice as the computer is set. */
export const schemeOf = (kept: string | undefined): Scheme => (kept === 'dark' || kept === 'light' ? kept : 'system');
