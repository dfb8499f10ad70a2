/** Random people, groups and libraries for tests of access: small, and full of all that decides who sees what. */
import type { AccessChange, AccessLibrary, AccessPaper, AccessPlace } from '@/core/access/library';
import type { Grant, Grantee, Step, Subject } from '@/core/access/resolve';
import type { Standstill, Standstills } from '@/core/standstill/standstill';
import { groupsOn, type Term } from '@/core/people/belonging';
import type { Chance } from './chance';

export const day = '2026-07-14';

/** People and groups; some groups are within others, some terms are over or have not begun. */
export interface Cast {
  readonly people: readonly string[];
  readonly groups: readonly string[];
  readonly terms: readonly Term[];
  readonly standings: readonly Grantee[];
}

/** An id that chance makes, in the form of a version 4 UUID (RFC 9562). */
export function randomId(chance: Chance): string {
  const hex = (digits: number) => Array.from({ length: digits }, () => chance.whole(0, 15).toString(16)).join('');
  return `${hex(8)}-${hex(4)}-4${hex(3)}-8${hex(3)}-${hex(12)}`;
}

export function randomCast(chance: Chance, people: readonly string[], groups: readonly string[]): Cast {
  const span = (): Pick<Term, 'from' | 'until'> =>
    chance.pick<Pick<Term, 'from' | 'until'>>([
      { from: null, until: null },
      { from: null, until: null },
      { from: day, until: day },
      { from: '2026-01-01', until: null },
      { from: null, until: '2026-07-13' },
      { from: '2026-07-15', until: null },
    ]);
  const terms: Term[] = [];
  for (const [at, groupId] of groups.entries()) {
    for (const id of chance.some(people, chance.whole(0, 2)))
      terms.push({ groupId, member: { kind: 'person', id }, ...span() });
    // Only into one that comes before: no loop can come about.
    if (at > 0 && chance.happens(0.6))
      terms.push({ groupId: chance.pick(groups.slice(0, at)), member: { kind: 'group', id: groupId }, ...span() });
  }
  const belonging = groupsOn(terms, day);
  return {
    people,
    groups,
    terms,
    standings: people.map((personId) => ({ personId, groupIds: belonging.get(personId) ?? new Set<string>() })),
  };
}

function randomGrant(chance: Chance, subject: Subject): Grant {
  const set = () => chance.whole(1, 31);
  if (chance.happens(0.25)) return { subject, gives: 0, withholds: set() };
  return { subject, gives: set(), withholds: chance.happens(0.15) ? set() : 0 };
}

export function randomStep(chance: Chance, cast: Cast): Step {
  const subjects: Subject[] = [
    ...cast.people.map((id) => ({ kind: 'person', id }) as const),
    ...cast.groups.map((id) => ({ kind: 'group', id }) as const),
    { kind: 'everyone' },
  ];
  const grants = chance.happens(0.55)
    ? chance.some(subjects, chance.whole(1, 3)).map((subject) => randomGrant(chance, subject))
    : [];
  return { follows: !chance.happens(0.15), grants };
}

/** A library of its own; or a series in another, beneath the place `under`. */
export function randomAccess(chance: Chance, cast: Cast, under: string | null = null): AccessLibrary {
  const places: AccessPlace[] = [{ id: randomId(chance), parentId: under, step: randomStep(chance, cast) }];
  for (let more = chance.whole(1, 4); more > 0; more -= 1)
    places.push({ id: randomId(chance), parentId: chance.pick(places).id, step: randomStep(chance, cast) });
  const papers: AccessPaper[] = [];
  for (let more = chance.whole(1, 3); more > 0; more -= 1) {
    const home = chance.pick(places);
    const elsewhere = places.filter((place) => place !== home).map((place) => place.id);
    papers.push({
      id: randomId(chance),
      homeId: home.id,
      step: chance.happens(0.4) ? randomStep(chance, cast) : { follows: true, grants: [] },
      openings: chance.happens(0.4) ? chance.some(elsewhere, chance.whole(1, 2)) : [],
    });
  }
  return { places, papers };
}

/** Locks and closed places, here and there in a library. */
export function randomStandstills(chance: Chance, { places, papers }: AccessLibrary): Standstills {
  const held: [string, Standstill][] = [];
  for (const { id } of places)
    if (chance.happens(0.25)) held.push([id, { locked: chance.happens(0.6), closed: chance.happens(0.5) }]);
  for (const { id } of papers) if (chance.happens(0.25)) held.push([id, { locked: true, closed: false }]);
  return new Map(held);
}

export function randomChange(chance: Chance, cast: Cast, { places, papers }: AccessLibrary): AccessChange {
  const place = chance.pick(places);
  const paper = chance.pick(papers);
  const below = new Set<string>();
  for (const { id, parentId } of places)
    if (id === place.id || (parentId !== null && below.has(parentId))) below.add(id);
  const elsewhere = places.filter((each) => !below.has(each.id));
  switch (chance.whole(0, elsewhere.length === 0 ? 3 : 4)) {
    case 0:
      return { kind: 'placeStep', placeId: place.id, step: randomStep(chance, cast) };
    case 1:
      return { kind: 'paperStep', paperId: paper.id, step: randomStep(chance, cast) };
    case 2:
      return {
        kind: 'paperMove',
        paperIds: new Set(chance.some(papers, chance.whole(1, papers.length)).map((each) => each.id)),
        toId: place.id,
      };
    case 3:
      return { kind: 'openings', placeId: place.id, opens: chance.happens(0.7) };
    default:
      return { kind: 'placeMove', placeId: place.id, toId: chance.pick(elsewhere).id };
  }
}
