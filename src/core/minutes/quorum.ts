import type { AttendeePart, Presence } from '../agenda/model';
import type { DetailField, Details } from '../dossiers/details';
import { nameKey } from '../text/fold';
import { counted } from '../text/measure';

/** The detail of a dossier that says how many members must be present. */
const quorumName = 'quorum';

/** How many members must be present by a dossier's details: the first number in the one called "Quorum"; null where none says. */
export function quorumOf(fields: readonly DetailField[], details: Details): number | null {
  const field = fields.find(({ name }) => nameKey(name) === quorumName);
  const said = /\d{1,3}/u.exec((field && details[field.id]) ?? '')?.[0];
  return said === undefined || Number(said) === 0 ? null : Number(said);
}

interface Attends {
  readonly part: AttendeePart;
  readonly presence: Presence | null;
}

/**
 * Whether enough members were present, in words: "3 of 4 members were present. The quorum is 3: it was met." Only members count.
 * Null while nobody's presence is noted.
 */
export function quorumInWords(attendees: readonly Attends[], needed: number | null): string | null {
  if (attendees.every(({ presence }) => presence === null)) return null;
  const members = attendees.filter(({ part }) => part === 'member');
  const present = members.filter(({ presence }) => presence === 'present').length;
  const there = `${present} of ${counted(members.length, 'member')} ${present === 1 ? 'was' : 'were'} present.`;
  if (needed === null) return there;
  return `${there} The quorum is ${needed}: it was ${present >= needed ? 'met' : 'not met'}.`;
}
