import { has, noCapabilities, type CapabilitySet } from './capability';
import { addsNothing, resolvePaper, resolveStep, type Grantee, type Step } from './resolve';

/** A place as far as access is concerned: its parent, and what its own sheet says. */
export interface AccessPlace {
  readonly id: string;
  /** Null for the library itself. */
  readonly parentId: string | null;
  readonly step: Step;
}

/** A paper with access of its own or with openings. All others have exactly their home's access. */
export interface AccessPaper {
  readonly id: string;
  readonly homeId: string;
  readonly step: Step;
  /** The places whose readers an opening admits. */
  readonly openings: readonly string[];
}

/** Everything that access depends on, except people. Each place comes after its parent. */
export interface AccessLibrary {
  readonly places: readonly AccessPlace[];
  readonly papers: readonly AccessPaper[];
}

/**
 * Capabilities by person at a place or paper. Only people with `see` have an entry; keepers only if something is granted
 * to them. Places that add nothing share the same object with the place above.
 */
export type Sight = ReadonlyMap<string, CapabilitySet>;
/** Sight of nothing, by anybody. */
export const nobody: Sight = new Map();

/** Access in each place, and to each listed paper. */
export interface Resolved {
  readonly places: ReadonlyMap<string, Sight>;
  readonly papers: ReadonlyMap<string, Sight>;
}

/**
 * Computes the access of a library, or of the part below some place.
 *
 * @param known access in places that are referred to but not listed
 * @throws if a place or paper refers to a place that is neither listed before it nor known
 */
export function resolveLibrary(
  library: AccessLibrary,
  people: readonly Grantee[],
  known: ReadonlyMap<string, Sight> = new Map(),
): Resolved {
  const places = new Map<string, Sight>();
  const at = (id: string): Sight => {
    const sight = places.get(id) ?? known.get(id);
    if (!sight) throw new Error(`Access to the place ${id} is asked for before it is known`);
    return sight;
  };
  for (const { id, parentId, step } of library.places) {
    const above = parentId === null ? nobody : at(parentId);
    places.set(
      id,
      addsNothing(step)
        ? above
        : sightOf(people, (who) => resolveStep(above.get(who.personId) ?? noCapabilities, step, who)),
    );
  }
  const papers = new Map<string, Sight>();
  for (const { id, homeId, step, openings } of library.papers) {
    const home = at(homeId);
    const opened = openings.map(at);
    papers.set(
      id,
      addsNothing(step) && opened.length === 0
        ? home
        : sightOf(people, (who) =>
            resolvePaper(
              home.get(who.personId) ?? noCapabilities,
              opened.map((each) => each.get(who.personId) ?? noCapabilities),
              step,
              who,
            ),
          ),
    );
  }
  return { places, papers };
}

/**
 * By paper, the people who see it only through its openings. They are not told its home.
 */
export function byOpeningOnly(
  library: AccessLibrary,
  resolved: Resolved,
  people: readonly Grantee[],
  known: ReadonlyMap<string, Sight> = new Map(),
): ReadonlyMap<string, ReadonlySet<string>> {
  const opened = library.papers.filter((paper) => paper.openings.length > 0);
  const shut = resolveLibrary(
    { places: [], papers: opened.map((paper) => ({ ...paper, openings: [] })) },
    people,
    new Map([...known, ...resolved.places]),
  );
  return new Map(
    opened.map(({ id }) => {
      const seers = [...(resolved.papers.get(id) ?? nobody)].filter(([, set]) => has(set, 'see'));
      return [id, new Set(seers.flatMap(([personId]) => (shut.papers.get(id)?.has(personId) ? [] : [personId])))];
    }),
  );
}

function sightOf(people: readonly Grantee[], held: (who: Grantee) => CapabilitySet): Sight {
  const sight = new Map<string, CapabilitySet>();
  for (const who of people) {
    const set = held(who);
    if (set !== noCapabilities) sight.set(who.personId, set);
  }
  return sight;
}

/** A change that affects access. */
export type AccessChange =
  | { readonly kind: 'placeStep'; readonly placeId: string; readonly step: Step }
  | { readonly kind: 'paperStep'; readonly paperId: string; readonly step: Step }
  | { readonly kind: 'placeMove'; readonly placeId: string; readonly toId: string }
  | { readonly kind: 'paperMove'; readonly paperIds: ReadonlySet<string>; readonly toId: string }
  /** A place's opening of all listed papers is added or removed. */
  | { readonly kind: 'openings'; readonly placeId: string; readonly opens: boolean };

/** The library after a change. The papers or places concerned have to be listed. */
export function changed(library: AccessLibrary, change: AccessChange): AccessLibrary {
  const { places, papers } = library;
  switch (change.kind) {
    case 'placeStep':
      return { ...library, places: one(places, change.placeId, (place) => ({ ...place, step: change.step })) };
    case 'paperStep':
      return { ...library, papers: one(papers, change.paperId, (paper) => ({ ...paper, step: change.step })) };
    case 'placeMove':
      return topDown({
        ...library,
        places: one(places, change.placeId, (place) => ({ ...place, parentId: change.toId })),
      });
    case 'paperMove':
      return {
        ...library,
        papers: papers.map((paper) => (change.paperIds.has(paper.id) ? { ...paper, homeId: change.toId } : paper)),
      };
    case 'openings':
      return {
        ...library,
        papers: papers.map((paper) => {
          const others = paper.openings.filter((id) => id !== change.placeId);
          const opens = change.opens && paper.homeId !== change.placeId;
          return { ...paper, openings: opens ? [...others, change.placeId] : others };
        }),
      };
  }
}

function one<T extends { readonly id: string }>(all: readonly T[], id: string, make: (each: T) => T): readonly T[] {
  if (!all.some((each) => each.id === id)) throw new Error(`A change of access is about ${id}, which is not listed`);
  return all.map((each) => (each.id === id ? make(each) : each));
}

/** The same library in depth-first order; siblings keep their order. */
export function topDown(library: AccessLibrary): AccessLibrary {
  const listed = new Set(library.places.map((place) => place.id));
  const below = new Map<string | null, AccessPlace[]>();
  for (const place of library.places) {
    const parent = place.parentId !== null && listed.has(place.parentId) ? place.parentId : null;
    below.set(parent, [...(below.get(parent) ?? []), place]);
  }
  const places: AccessPlace[] = [];
  const visit = (parent: string | null): void => {
    for (const place of below.get(parent) ?? []) {
      places.push(place);
      visit(place.id);
    }
  };
  visit(null);
  if (places.length < library.places.length) throw new Error('A place would stand within itself');
  return { ...library, places };
}
