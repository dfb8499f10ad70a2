import { capabilities, closed, has, listOf, readySets, setOf, type Capability, type CapabilitySet } from './capability';
import { afterLink, comesTo, type Link } from './explain';
import { openingLets, subjectKey } from './resolve';
import { counted } from '../text/measure';

/** What each capability lets a person do, after "may". */
export const capabilityWords: Record<Capability, string> = {
  see: 'see',
  take: 'take copies',
  add: 'add',
  amend: 'amend',
  manage: 'manage',
};

/** A set as words, just as it is: "may see and take copies", "may do everything". */
export function setInWords(set: CapabilitySet): string {
  if (set === 0) return 'may do nothing';
  if (set === readySets.manager) return 'may do everything';
  return `may ${listInWords(listOf(set).map((each) => capabilityWords[each]))}`;
}

/**
 * Who a place or paper is open to, as one sentence part: "Open to 9 people" for those who manage it; what oneself may do for
 * everyone else, whom it is not told (`people` is null): "You may see and take copies".
 */
export function opennessInWords(people: number | null, own: readonly Capability[]): string {
  if (people !== null) return openToWords(people);
  const set = setOf(own);
  const without = has(set, 'see') && !has(set, 'take') ? ', but not take copies' : '';
  return `You ${setInWords(set)}${without}`;
}

/** Who a place is open to, as one sentence part: "Open to 9 people". */
export const openToWords = (people: number): string =>
  people === 0 ? 'Open to nobody yet' : `Open to ${counted(people, 'person', 'people')}`;

/** The ready set's word where a set is one of them exactly, else null. */
export function readySetOf(set: CapabilitySet): keyof typeof readySets | null {
  const found = Object.entries(readySets).find(([, each]) => each === set)?.[0];
  return found === 'reader' || found === 'contributor' || found === 'officer' || found === 'manager' ? found : null;
}

/** How many capabilities there are: for headings that must keep step with the list. */
export const capabilityCount = capabilities.length;

/** The names that a chain needs: of places and papers by id, of subjects by their key. */
export interface ChainNames {
  /** Null for a place that who asks may not know of: it is not named, and nothing is told of what is said there. */
  readonly at: (id: string) => string | null;
  readonly subject: (key: string) => string;
}

/** A chain as sentences, one a link, each saying what it comes to so far where that is not plain. */
export function chainInWords(chain: readonly Link[], names: ChainNames): string[] {
  const said: string[] = [];
  let set: CapabilitySet = 0;
  for (const link of chain) {
    const after = afterLink(set, link);
    said.push(...linkInWords(link, set, after, names));
    set = after;
  }
  return said;
}

function linkInWords(link: Link, before: CapabilitySet, after: CapabilitySet, names: ChainNames): string[] {
  const name = names.at(link.at);
  const at = name === null ? 'a place that is not open to you' : `“${name}”`;
  switch (link.kind) {
    case 'standsAlone':
      return [
        before === 0
          ? `${at} stands alone: only what is said there counts.`
          : `${at} stands alone: what came from above ends there.`,
      ];
    case 'gives':
      return [`${at}: ${names.subject(subjectKey(link.subject))} ${setInWords(link.set)}.`];
    case 'withholds':
      return [
        after === 0
          ? `${at} withholds it from ${names.subject(subjectKey(link.subject))}: nothing is left.`
          : `${at} withholds from ${names.subject(subjectKey(link.subject))}: ${listOf(link.set)
              .map((each) => capabilityWords[each])
              .join(', ')}.`,
      ];
    case 'opening': {
      const lets = comesTo(link.chain) & openingLets;
      return lets === 0
        ? [`It is also filed in ${at}, which lets its readers in; that place is not open to them.`]
        : [
            `It is also filed in ${at}, which lets its readers in: they ${setInWords(lets)}.${name === null ? '' : ' There:'}`,
            ...(name === null ? [] : chainInWords(link.chain, names)),
          ];
    }
  }
}

/** A sheet as sentences: who may do what, those who may do the same named together. */
export function sheetInWords(
  lines: readonly { readonly name: string; readonly gives: CapabilitySet; readonly withholds: CapabilitySet }[],
): string {
  const alike = new Map<string, string[]>();
  for (const { name, gives, withholds } of lines) {
    const words = [
      ...(gives === 0 ? [] : [setInWords(closed(gives))]),
      ...(withholds === 0 ? [] : [withheldInWords(withholds)]),
    ].join(', but ');
    if (words !== '') alike.set(words, [...new Set([...(alike.get(words) ?? []), name])]);
  }
  return [...alike].map(([words, names]) => `${listInWords(names)} ${words}`).join('; ');
}

/** "may not see it at all", "may not take copies". */
export function withheldInWords(withholds: CapabilitySet): string {
  if (has(withholds, 'see')) return 'may not see it at all';
  return `may not ${listInWords(
    listOf(withholds).map((each) => capabilityWords[each]),
    'or',
  )}`;
}

/** "Ada", "Ada and Bo", "Ada, Bo and Cy". */
export function listInWords(words: readonly string[], last = 'and'): string {
  return words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1) ?? ''}`;
}
