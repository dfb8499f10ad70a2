/** How tall a row of papers is, in pixels, by the density a person likes. Here, and not with the client's context, because the server reads it too. */
export const densities = { compact: 34, comfortable: 42 } as const;
export type Density = keyof typeof densities;
/** Light or dark colours. */
export type Scheme = 'light' | 'dark';
