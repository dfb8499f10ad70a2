const collator = new Intl.Collator('en-GB', { numeric: true, sensitivity: 'variant' });

/** Natural order for people: "Appendix 2" before "Appendix 10" (CLDR collation with `kn`). */
export const naturalCompare = (a: string, b: string): number => collator.compare(a, b);
