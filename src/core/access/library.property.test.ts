import { Chance } from '../../../tests/oracle/chance';
import { plainAtPaper, plainAtPlace } from '../../../tests/oracle/plainAccess';
import {
  randomAccess,
  randomCast,
  randomChange,
  randomId,
  randomStandstills,
  type Cast,
} from '../../../tests/oracle/randomAccess';
import { listOf, noCapabilities, type CapabilitySet } from './capability';
import { comesTo, explain, explainPaper, type NamedStep } from './explain';
import { difference } from './impact';
import { atStandstill } from '../standstill/standstill';
import { changed, resolveLibrary, type AccessLibrary, type Resolved } from './library';

const libraries = 1000;
const ids = new Chance(1);
const people = Array.from({ length: 4 }, () => randomId(ids));
const groups = Array.from({ length: 3 }, () => randomId(ids));

/** The same libraries for each test, each with its cast. */
function* worlds(count: number): Generator<{ chance: Chance; cast: Cast; library: AccessLibrary }> {
  for (let seed = 0; seed < count; seed += 1) {
    const chance = new Chance(seed);
    const cast = randomCast(chance, people, groups);
    yield { chance, cast, library: randomAccess(chance, cast) };
  }
}

const held = (resolved: Resolved, kind: 'places' | 'papers', id: string, personId: string): CapabilitySet =>
  resolved[kind].get(id)?.get(personId) ?? noCapabilities;

/** What does not agree, in words: jest's own comparing of millions of values would take minutes. */
function disagreements(resolved: Resolved, library: AccessLibrary, cast: Cast): string[] {
  const wrong: string[] = [];
  for (const personId of cast.people) {
    for (const { id } of library.places) {
      const plain = [...plainAtPlace(library, cast, id, personId)].sort().join();
      if (
        listOf(held(resolved, 'places', id, personId))
          .sort()
          .join() !== plain
      )
        wrong.push(`place ${id}: ${plain}`);
    }
    for (const { id } of library.papers) {
      const plain = [...plainAtPaper(library, cast, id, personId)].sort().join();
      if (
        listOf(held(resolved, 'papers', id, personId))
          .sort()
          .join() !== plain
      )
        wrong.push(`paper ${id}: ${plain}`);
    }
  }
  return wrong;
}

it(`resolves ${libraries} random libraries as the plain reading of the rule does`, () => {
  for (const { cast, library } of worlds(libraries))
    expect(disagreements(resolveLibrary(library, cast.standings), library, cast)).toEqual([]);
});

it('explains each by a chain that comes to the same, and says nothing that changes nothing to them', () => {
  for (const { cast, library } of worlds(2000)) {
    const resolved = resolveLibrary(library, cast.standings);
    const stepAt = new Map(library.places.map((place) => [place.id, place]));
    const pathTo = (id: string | null): NamedStep[] => {
      const place = id === null ? undefined : stepAt.get(id);
      return place ? [...pathTo(place.parentId), { at: place.id, step: place.step }] : [];
    };
    for (const who of cast.standings) {
      for (const { id } of library.places)
        if (comesTo(explain(pathTo(id), who)) !== held(resolved, 'places', id, who.personId))
          throw new Error(`The chain at the place ${id} comes to something else`);
      for (const { id, homeId, openings, step } of library.papers) {
        const chain = explainPaper(pathTo(homeId), openings.map(pathTo), { at: id, step }, who);
        if (comesTo(chain) !== held(resolved, 'papers', id, who.personId))
          throw new Error(`The chain at the paper ${id} comes to something else`);
      }
    }
  }
});

it('says as the impact of a change just what is different after it', () => {
  let shifts = 0;
  for (const { chance, cast, library } of worlds(1500)) {
    const change = randomChange(chance, cast, library);
    const after = changed(library, change);
    const impact = difference(resolveLibrary(library, cast.standings), resolveLibrary(after, cast.standings));
    const said = new Map(impact.map((each) => [each.personId, each]));
    for (const personId of cast.people) {
      for (const { id } of library.places) {
        const plainly = [plainAtPlace(library, cast, id, personId), plainAtPlace(after, cast, id, personId)];
        shifts += check(said.get(personId)?.places.get(id), plainly);
      }
      for (const { id } of library.papers) {
        const plainly = [plainAtPaper(library, cast, id, personId), plainAtPaper(after, cast, id, personId)];
        shifts += check(said.get(personId)?.papers.get(id), plainly);
      }
    }
  }
  expect(shifts).toBeGreaterThan(1500);
});

it('says of locks and closings just what they stop, as plainly read from the leaf upwards', () => {
  let stopped = 0;
  for (const { chance, cast, library } of worlds(1500)) {
    const still = randomStandstills(chance, library);
    const resolved = resolveLibrary(library, cast.standings);
    const now = atStandstill(library, resolved, still, new Map());
    const parents = new Map<string, string | null>([
      ...library.places.map(({ id, parentId }) => [id, parentId] as const),
      ...library.papers.map(({ id, homeId }) => [id, homeId] as const),
    ]);
    const said = new Map(difference(resolved, now).map((each) => [each.personId, each]));
    for (const id of parents.keys()) {
      let [locked, closed] = [false, false];
      for (let at: string | null = id; at !== null; at = parents.get(at) ?? null) {
        locked ||= still.get(at)?.locked ?? false;
        closed ||= still.get(at)?.closed ?? false;
      }
      const kind = library.papers.some((each) => each.id === id) ? 'papers' : 'places';
      for (const personId of cast.people) {
        const before = listOf(held(resolved, kind, id, personId));
        const left = before.filter((each) => !(each === 'amend' && (locked || closed)) && !(each === 'add' && closed));
        expect(listOf(held(now, kind, id, personId)).join()).toBe(left.join());
        expect(said.get(personId)?.[kind].has(id) ?? false).toBe(left.length < before.length);
        stopped += before.length - left.length;
      }
    }
  }
  expect(stopped).toBeGreaterThan(1500);
});

function check(
  shift: { before: CapabilitySet; after: CapabilitySet } | undefined,
  plainly: readonly ReadonlySet<string>[],
): number {
  const [before = '', after = ''] = plainly.map((words) => [...words].sort().join());
  if (before === after) {
    if (shift) throw new Error(`A change is told where there is none: ${before}`);
    return 0;
  }
  if (!shift) throw new Error(`A change is not told: ${before} to ${after}`);
  expect([listOf(shift.before).sort().join(), listOf(shift.after).sort().join()]).toEqual([before, after]);
  return 1;
}
