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

/** A set in words: "may see and take copies", "may do everything". */
export function setInWords(set: CapabilitySet): string {
  if (set === 0) return 'may do nothing';
  if (set === readySets.manager) return 'may do everything';
  return `may ${listInWords(listOf(set).map((each) => capabilityWords[each]))}`;
}

/**
 * For managers, how many people can open a place or paper: "Open to 9 people". For others (`people` is null), what they
 * may do: "You may see and take copies".
 */
export function opennessInWords(people: number | null, own: readonly Capability[]): string {
  if (people !== null) return openToWords(people);
  const set = setOf(own);
  const without = has(set, 'see') && !has(set, 'take') ? ', but not take copies' : '';
  return `You ${setInWords(set)}${without}`;
}

/** How many people can open a place: "Open to 9 people". */
export const openToWords = (people: number): string =>
  people === 0 ? 'Open to nobody yet' : `Open to ${counted(people, 'person', 'people')}`;

/** The name of the predefined set that equals a set; null if none. */
export function readySetOf(set: CapabilitySet): keyof typeof readySets | null {
  const found = Object.entries(readySets).find(([, each]) => each === set)?.[0];
  return found === 'reader' || found === 'contributor' || found === 'officer' || found === 'manager' ? found : null;
}

/** The number of capabilities, for headings. */
export const capabilityCount = capabilities.length;

/** Names for a chain: of places and papers by id, of subjects by key. */
export interface ChainNames {
  /** Null for a place that the caller may not know of; its sheet is not mentioned either. */
  readonly at: (id: string) => string | null;
  readonly subject: (key: string) => string;
}

/** A chain as one sentence per link, with the result so far where that is not obvious. */
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

/** A sheet as sentences; people who may do the same are named together. */
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

const lists = {
  and: new Intl.ListFormat('en-GB', { type: 'conjunction' }),
  or: new Intl.ListFormat('en-GB', { type: 'disjunction' }),
};

/** "Ada", "Ada and Bo", "Ada, Bo and Cy". */
export const listInWords = (words: readonly string[], last: keyof typeof lists = 'and'): string =>
  lists[last].format(words);
