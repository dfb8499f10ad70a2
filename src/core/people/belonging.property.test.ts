import { Chance } from '../../../tests/oracle/chance';
import { day, randomCast, randomId, type Cast } from '../../../tests/oracle/randomAccess';
import { groupsOn, holdsOn, wouldLoop, type Term } from './belonging';

/**
 * The review functions of role-based access control (INCITS 359-2004, sections 6.1 and 6.2), over groups as roles. A group
 * that is in another is the senior one: who is assigned to it is authorised for the other.
 */
const ids = new Chance(5);
const people = Array.from({ length: 5 }, () => randomId(ids));
const groups = Array.from({ length: 6 }, () => randomId(ids));

/** AssignedUsers(r): those who were put into the role itself. */
const assignedUsers = ({ terms }: Cast, role: string): Set<string> =>
  new Set(
    terms
      .filter((term) => holdsOn(term, day) && term.groupId === role && term.member.kind === 'person')
      .map((term) => term.member.id),
  );

/** The inheritance relation as a matrix, closed by Warshall's algorithm: `senior.get(r)` are all r' with r' ≥ r. */
function seniors({ terms }: Cast): ReadonlyMap<string, ReadonlySet<string>> {
  const senior = new Map(groups.map((group) => [group, new Set([group])]));
  for (const term of terms)
    if (holdsOn(term, day) && term.member.kind === 'group') senior.get(term.groupId)?.add(term.member.id);
  for (const between of groups)
    for (const group of groups)
      if (senior.get(group)?.has(between)) for (const each of senior.get(between) ?? []) senior.get(group)?.add(each);
  return senior;
}

/** AuthorizedUsers(r) = { u | there is an r' ≥ r with (u, r') assigned }. */
const authorizedUsers = (cast: Cast, role: string): Set<string> =>
  new Set([...(seniors(cast).get(role) ?? [])].flatMap((senior) => [...assignedUsers(cast, senior)]));

it('belonging to a group is being authorised for the role, in 600 random organisations', () => {
  let inherited = 0;
  for (let seed = 0; seed < 600; seed += 1) {
    const cast = randomCast(new Chance(seed), people, groups);
    const belonging = groupsOn(cast.terms, day);
    for (const group of groups) {
      const authorized = authorizedUsers(cast, group);
      expect(people.filter((who) => belonging.get(who)?.has(group))).toEqual(
        people.filter((who) => authorized.has(who)),
      );
      inherited += authorized.size - assignedUsers(cast, group).size;
    }
    // AssignedRoles and AuthorizedRoles are the same relations, asked from the person's side.
    for (const who of people)
      expect(groups.filter((group) => belonging.get(who)?.has(group))).toEqual(
        groups.filter((group) => authorizedUsers(cast, group).has(who)),
      );
  }
  expect(inherited).toBeGreaterThan(200);
});

it('an inheritance is refused exactly where it would make a circle (AddInheritance: not r_desc ≥ r_asc)', () => {
  let refused = 0;
  for (let seed = 0; seed < 500; seed += 1) {
    const chance = new Chance(seed);
    const terms: Term[] = [];
    const cast = { people, groups, terms, standings: [] };
    for (let more = 0; more < 12; more += 1) {
      const [outer, inner] = [chance.pick(groups), chance.pick(groups)];
      const circle = seniors(cast).get(inner)?.has(outer) ?? false;
      expect(wouldLoop(terms, outer, inner)).toBe(circle);
      if (circle) refused += 1;
      else terms.push({ groupId: outer, member: { kind: 'group', id: inner }, from: null, until: null });
    }
  }
  expect(refused).toBeGreaterThan(500);
});
