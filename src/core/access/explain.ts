import { closed, noCapabilities, type CapabilitySet } from './capability';
import { openingLets, speaksTo, without, type Standing, type Step, type Subject } from './resolve';

/** A step on the way from the library down, with the place or paper it belongs to. */
export interface NamedStep {
  readonly at: string;
  readonly step: Step;
}

/**
 * One link of the chain that says why someone may or may not do something. Links are in the order in which they take
 * effect: at each step first whether it stands alone, then what it gives, then what it withholds.
 */
export type Link =
  | { readonly kind: 'standsAlone'; readonly at: string }
  | { readonly kind: 'gives'; readonly at: string; readonly subject: Subject; readonly set: CapabilitySet }
  | { readonly kind: 'withholds'; readonly at: string; readonly subject: Subject; readonly set: CapabilitySet }
  /** A cross-filing lets the readers of a place in: with what its own chain comes to, and not more than seeing and copies. */
  | { readonly kind: 'opening'; readonly at: string; readonly chain: readonly Link[] };

/** Why an actor may do what they may at the end of a path. Steps that say nothing to them give no link. */
export function explain(path: readonly NamedStep[], actor: Standing): Link[] {
  return path.flatMap(({ at, step }) => [
    ...(step.follows ? [] : [{ kind: 'standsAlone', at } as const]),
    ...spokenLinks(at, step, actor),
  ]);
}

/** The same of a paper: its home's path, the paths of the places whose readers are let in, and the paper's own step. */
export function explainPaper(
  home: readonly NamedStep[],
  openings: readonly (readonly NamedStep[])[],
  paper: NamedStep,
  actor: Standing,
): Link[] {
  return [
    ...explain(home, actor),
    ...(paper.step.follows ? [] : [{ kind: 'standsAlone', at: paper.at } as const]),
    ...openings.map((path): Link => ({ kind: 'opening', at: path.at(-1)?.at ?? '', chain: explain(path, actor) })),
    ...spokenLinks(paper.at, paper.step, actor),
  ];
}

function spokenLinks(at: string, step: Step, actor: Standing): Link[] {
  const mine = step.grants.filter((grant) => speaksTo(grant.subject, actor));
  return [
    ...mine.flatMap(({ subject, gives }): Link[] =>
      gives === noCapabilities ? [] : [{ kind: 'gives', at, subject, set: closed(gives) }],
    ),
    ...mine.flatMap(({ subject, withholds }): Link[] =>
      withholds === noCapabilities ? [] : [{ kind: 'withholds', at, subject, set: withholds }],
    ),
  ];
}

/** What a chain comes to: always what resolving gives for the same path and actor. */
export function comesTo(chain: readonly Link[]): CapabilitySet {
  return chain.reduce(afterLink, noCapabilities);
}

/** A set after one more link. */
export function afterLink(set: CapabilitySet, link: Link): CapabilitySet {
  switch (link.kind) {
    case 'standsAlone':
      return noCapabilities;
    case 'gives':
      return set | link.set;
    case 'withholds':
      return without(set, link.set);
    case 'opening':
      return set | (comesTo(link.chain) & openingLets);
  }
}
