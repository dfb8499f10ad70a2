/** What one may be allowed to do with papers, from the least to the most. */
export const capabilities = ['see', 'take', 'add', 'amend', 'manage'] as const;
export type Capability = (typeof capabilities)[number];

/** A set of capabilities as bits, in the order above: see 1, take 2, add 4, amend 8, manage 16. */
export type CapabilitySet = number;

/** The empty set. */
export const noCapabilities: CapabilitySet = 0;
/** Every capability: five bits. */
export const allCapabilities: CapabilitySet = 31;

/** The set that holds this capability alone. */
export const bitOf = (capability: Capability): CapabilitySet => 1 << capabilities.indexOf(capability);

/** The set of some capabilities with those they imply: any implies `see`, `manage` implies all. */
export function setOf(some: readonly Capability[]): CapabilitySet {
  return closed(some.reduce((set, each) => set | bitOf(each), noCapabilities));
}

/** Adds implied capabilities to a set: `manage` implies all; any implies `see`. */
export function closed(set: CapabilitySet): CapabilitySet {
  if (set & bitOf('manage')) return allCapabilities;
  return set === 0 ? 0 : set | bitOf('see');
}

/** Whether a set holds a capability. */
export const has = (set: CapabilitySet, capability: Capability): boolean => (set & bitOf(capability)) !== 0;

/** The capabilities in a set, from the least to the most. */
export const listOf = (set: CapabilitySet): Capability[] => capabilities.filter((each) => has(set, each));

/** The predefined sets, by the name a sheet shows for each. */
export const readySets = {
  reader: setOf(['see', 'take']),
  contributor: setOf(['see', 'take', 'add']),
  officer: setOf(['see', 'take', 'add', 'amend']),
  manager: allCapabilities,
} as const;
export type ReadySet = keyof typeof readySets;
