import { capabilities, closed, readySets, type Capability, type CapabilitySet, listOf } from './capability';
import { counted } from '../text/measure';

/** What each capability lets a person do, after "may". */
export const capabilityWords: Record<Capability, string> = {
  see: 'see',
  take: 'take copies',
  add: 'add',
  amend: 'amend',
  manage: 'manage',
};

/** A set as words: "may see and take copies", "may do everything". */
export function setInWords(set: CapabilitySet): string {
  const whole = closed(set);
  if (whole === 0) return 'may do nothing';
  if (whole === readySets.manager) return 'may do everything';
  const words = listOf(whole).map((each) => capabilityWords[each]);
  const last = words.pop() ?? '';
  return words.length === 0 ? `may ${last}` : `may ${words.join(', ')} and ${last}`;
}

/** Who a place is open to, as one sentence part: "Open to 9 people". */
export const openToWords = (people: number): string =>
  people === 0 ? 'Open to nobody yet' : `Open to ${counted(people, 'person', 'people')}`;

/** The ready set's word where a set is one of them exactly, else null. */
export function readySetOf(set: CapabilitySet): keyof typeof readySets | null {
  const whole = closed(set);
  const found = Object.entries(readySets).find(([, each]) => each === whole)?.[0];
  return found === 'reader' || found === 'contributor' || found === 'officer' || found === 'manager' ? found : null;
}

/** How many capabilities there are: for headings that must keep step with the list. */
export const capabilityCount = capabilities.length;
