import { bitOf, closed, noCapabilities, type Capability, type CapabilitySet } from './capability';

/** What a line of a sheet gives and withholds. */
export interface Said {
  readonly gives: CapabilitySet;
  readonly withholds: CapabilitySet;
}

/** What one box of a sheet says: allowed, refused, or unset. */
export type Saying = 'given' | 'withheld' | 'unsaid';

/** A line's setting for one capability. If `see` is withheld, everything is. */
export function sayingOf({ gives, withholds }: Said, capability: Capability): Saying {
  if ((withholds & (bitOf(capability) | bitOf('see'))) !== 0) return 'withheld';
  return (gives & bitOf(capability)) !== 0 ? 'given' : 'unsaid';
}

/**
 * A line after a click on one capability: unset becomes given, given becomes withheld, withheld becomes unset. Giving
 * also gives what it implies and ends its withholding; withholding also removes what depends on it.
 */
export function pressed(said: Said, capability: Capability): Said {
  const bit = bitOf(capability);
  switch (sayingOf(said, capability)) {
    case 'unsaid': {
      const gives = closed(said.gives | bit);
      return { gives, withholds: said.withholds & ~gives };
    }
    case 'given':
      return capability === 'see'
        ? { gives: noCapabilities, withholds: bit }
        : { gives: said.gives & ~bit & ~bitOf('manage'), withholds: said.withholds | bit };
    case 'withheld':
      return { ...said, withholds: said.withholds & ~bit & ~bitOf('see') };
  }
}
