import { closed, noCapabilities, type CapabilitySet } from './capability';
import { openingLets, speaksTo, without, type Grantee, type Step, type Subject } from './resolve';

/** The access sheet of one place or paper on the path from the library down. */
export interface NamedStep {
  readonly at: string;
  readonly step: Step;
}

/**
 * One link of the chain that explains someone's access. Links are in the order in which they take effect: for each step
 * first whether it inherits, then what it gives, then what it withholds.
 */
export type Link =
  | { readonly kind: 'standsAlone'; readonly at: string }
  | { readonly kind: 'gives'; readonly at: string; readonly subject: Subject; readonly set: CapabilitySet }
  | { readonly kind: 'withholds'; readonly at: string; readonly subject: Subject; readonly set: CapabilitySet }
  /** An opening admits the readers of a place, with the result of that place's own chain, limited to seeing and taking copies. */
  | { readonly kind: 'opening'; readonly at: string; readonly chain: readonly Link[] };

/** Explains a person's access at the end of a path. Steps that do not concern them give no link. */
export function explain(path: readonly NamedStep[], actor: Grantee): Link[] {
  return path.flatMap(({ at, step }) => [
    ...(step.follows ? [] : [{ kind: 'standsAlone', at } as const]),
    ...spokenLinks(at, step, actor),
  ]);
}

/** The same for a paper: its home's path, the paths of its openings, and its own step. */
export function explainPaper(
  home: readonly NamedStep[],
  openings: readonly (readonly NamedStep[])[],
  paper: NamedStep,
  actor: Grantee,
): Link[] {
  return [
    ...explain(home, actor),
    ...(paper.step.follows ? [] : [{ kind: 'standsAlone', at: paper.at } as const]),
    ...openings.map((path): Link => ({ kind: 'opening', at: path.at(-1)?.at ?? '', chain: explain(path, actor) })),
    ...spokenLinks(paper.at, paper.step, actor),
  ];
}

function spokenLinks(at: string, step: Step, actor: Grantee): Link[] {
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

/** The result of a chain: always equal to `resolve` for the same path and person. */
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
