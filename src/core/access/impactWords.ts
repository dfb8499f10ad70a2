import { counted } from '../text/measure';
import { bitOf, has, listOf, noCapabilities, type CapabilitySet } from './capability';
import { capabilityWords, listInWords } from './words';
import type { Shift } from './impact';

/** An effect of a change on some people, the same for all of them. */
export interface ImpactLine {
  readonly names: readonly string[];
  /** Whether they gain or lose access, or may do more or less with what they see anyway. */
  readonly kind: 'gains' | 'loses' | 'more' | 'less';
  /** Papers affected; if none are, `places` counts. */
  readonly papers: number;
  readonly places: number;
  /** After a gain, what they may do; else the capabilities added or removed. */
  readonly set: CapabilitySet;
  /** Titles of a few of the papers. */
  readonly examples: readonly string[];
  /** Whether they see nothing in the library afterwards. */
  readonly lastWay: boolean;
}

/** The kinds of effect of a shift: gaining or losing access, or else more, less, or both. */
export function kindsOf({ before, after }: Shift): readonly { kind: ImpactLine['kind']; set: CapabilitySet }[] {
  if (before === noCapabilities) return [{ kind: 'gains', set: after }];
  if (after === noCapabilities) return [{ kind: 'loses', set: before }];
  return [
    ...((after & ~before) === 0 ? [] : [{ kind: 'more' as const, set: after & ~before }]),
    ...((before & ~after) === 0 ? [] : [{ kind: 'less' as const, set: before & ~after }]),
  ];
}

/** Sorts losses first, then by number of papers. */
export function inOrder(lines: readonly ImpactLine[]): ImpactLine[] {
  const rank = { loses: 0, less: 1, gains: 2, more: 3 };
  return [...lines].sort(
    (a, b) => rank[a.kind] - rank[b.kind] || b.papers - a.papers || (a.names[0] ?? '').localeCompare(b.names[0] ?? ''),
  );
}

/** The sentence after the names: "will see 46 papers, without taking copies". */
export function impactInWords(line: ImpactLine): string {
  const what =
    line.papers > 0 ? counted(line.papers, 'paper') : `${counted(line.places, 'place')} with no papers so far`;
  const acts = (set: CapabilitySet) => listInWords(listOf(set & ~bitOf('see')).map((each) => capabilityWords[each]));
  switch (line.kind) {
    case 'gains': {
      const more = listOf(line.set & ~bitOf('see') & ~bitOf('take'));
      const copies = has(line.set, 'take') ? '' : ', without taking copies';
      return `will see ${what}${copies}${more.length === 0 ? '' : `, and may ${listInWords(more.map((each) => capabilityWords[each]))}`}`;
    }
    case 'loses':
      return `will no longer see ${what}`;
    case 'more':
      return `may also ${acts(line.set)} (${what})`;
    case 'less':
      return `may no longer ${acts(line.set)} (${what})`;
  }
}
