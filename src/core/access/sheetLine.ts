import { bitOf, closed, noCapabilities, type Capability, type CapabilitySet } from './capability';

/** What a line of a sheet says to its subject. */
export interface Said {
  readonly gives: CapabilitySet;
  readonly withholds: CapabilitySet;
}

export type Saying = 'given' | 'withheld' | 'unsaid';

/** What a line says of one capability. With `see` withheld, everything is. */
export function sayingOf({ gives, withholds }: Said, capability: Capability): Saying {
  if ((withholds & (bitOf(capability) | bitOf('see'))) !== 0) return 'withheld';
  return (gives & bitOf(capability)) !== 0 ? 'given' : 'unsaid';
}

/**
 * A line after one capability was pressed: from unsaid to given, from given to withheld, from withheld to unsaid. Giving
 * brings what belongs to it and takes back that it was withheld; what is withheld is no longer given, and with it goes
 * whatever cannot be without it.
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
