/** The rule of access once more, read plainly: sets of words, asked from the leaf upwards, nothing remembered. */
import { capabilities, has, type Capability } from '@/core/access/capability';
import type { AccessLibrary } from '@/core/access/library';
import type { Grant, Step } from '@/core/access/resolve';
import { day as usualDay, type Cast } from './randomAccess';

type Words = Set<Capability>;
/** People and groups, and the day on which it is asked. */
type PlainCast = Pick<Cast, 'terms'> & { readonly day?: string };

/** All groups someone is in on the day, found by going over the terms until nothing more is found. */
function groupsOf({ terms, day = usualDay }: PlainCast, personId: string): Set<string> {
  const mine = new Set<string>();
  for (;;) {
    const before = mine.size;
    for (const { groupId, member, from, until } of terms) {
      if (from !== null && from > day) continue;
      if (until !== null && until < day) continue;
      if (member.kind === 'person' ? member.id === personId : mine.has(member.id)) mine.add(groupId);
    }
    if (mine.size === before) return mine;
  }
}

function said(start: Words, step: Step, personId: string, groups: ReadonlySet<string>): Words {
  const forMe = ({ subject }: Grant) =>
    subject.kind === 'everyone' ||
    (subject.kind === 'person' && subject.id === personId) ||
    (subject.kind === 'group' && groups.has(subject.id));
  const next = new Set(start);
  for (const grant of step.grants.filter(forMe)) {
    const given = capabilities.filter((each) => has(grant.gives, each));
    if (given.length > 0) next.add('see');
    for (const each of given.includes('manage') ? capabilities : given) next.add(each);
  }
  for (const grant of step.grants.filter(forMe))
    for (const each of capabilities) if (has(grant.withholds, each)) next.delete(each);
  return next.has('see') ? next : new Set();
}

export function plainAtPlace(library: AccessLibrary, cast: PlainCast, placeId: string, personId: string): Words {
  const place = library.places.find((each) => each.id === placeId);
  if (!place) return new Set();
  const above =
    place.step.follows && place.parentId !== null
      ? plainAtPlace(library, cast, place.parentId, personId)
      : new Set<Capability>();
  return said(above, place.step, personId, groupsOf(cast, personId));
}

export function plainAtPaper(library: AccessLibrary, cast: PlainCast, paperId: string, personId: string): Words {
  const paper = library.papers.find((each) => each.id === paperId);
  if (!paper) return new Set();
  const start = paper.step.follows ? plainAtPlace(library, cast, paper.homeId, personId) : new Set<Capability>();
  for (const placeId of paper.openings)
    for (const each of plainAtPlace(library, cast, placeId, personId))
      if (each === 'see' || each === 'take') start.add(each);
  return said(start, paper.step, personId, groupsOf(cast, personId));
}
