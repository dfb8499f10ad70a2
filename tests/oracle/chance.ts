/** Chance with a seed, for tests of the core, which must not lean on the demo. */
export { Chance } from '@/core/chance/chance';
