/**
 * A third opinion on access: an independent policy engine from the registry (@cedar-policy/cedar-wasm). It is told of
 * people, groups within groups and the tree as its own entities, and of sheets as its own policies; who is in what,
 * and what is forbidden, it works out by itself.
 *
 * - A place that stands alone has no parent, so nothing from above reaches it.
 * - What is withheld is forbidden at that place and below, unless it is given again further down.
 * - A paper is asked about once for each way to it: its home, and each place that lets its readers in.
 */
import { setFlagsFromString } from 'node:v8';
import { preparsePolicySet, statefulIsAuthorized, type EntityJson } from '@cedar-policy/cedar-wasm/nodejs';
import { capabilities, closed, has, type Capability, type CapabilitySet } from '@/core/access/capability';
import type { AccessLibrary } from '@/core/access/library';
import type { Grant, Subject } from '@/core/access/resolve';
import type { Standstills } from '@/core/standstill/standstill';
import { day, type Cast } from './randomAccess';

// Node 20's V8 ends the process now and then when it gives up code into which it had inlined a call of WebAssembly.
setFlagsFromString('--no-turbo-inline-js-wasm-calls');

const keyOf = (each: EntityJson['uid']): string => JSON.stringify(each);
const uid = (type: string, id: string) => ({ type, id });
const setName = 'the library';

export class PolicyEngine {
  readonly #entities: ReadonlyMap<string, EntityJson>;
  /** What an entity is in, itself first: all that the engine needs to be told of it. */
  readonly #lineages = new Map<string, readonly EntityJson[]>();

  constructor(
    private readonly library: AccessLibrary,
    cast: Cast,
    still: Standstills = new Map(),
  ) {
    const policies = [...policiesOf(library), ...standstillPolicies(library, still)];
    const read = preparsePolicySet(setName, { staticPolicies: policies.join('\n') });
    if (read.type === 'failure') throw new Error(read.errors.map((each) => each.message).join('; '));
    this.#entities = new Map(
      [...castEntities(cast), ...libraryEntities(library)].map((each) => [keyOf(each.uid), each]),
    );
  }

  atPlace(placeId: string, personId: string, capability: Capability): boolean {
    return this.#asks(personId, capability, uid('Place', placeId));
  }

  atPaper(paperId: string, personId: string, capability: Capability): boolean {
    const paper = this.library.papers.find((each) => each.id === paperId);
    const lets = capability === 'see' || capability === 'take';
    const ways = ['home', ...(lets ? (paper?.openings ?? []) : [])];
    return ways.some((way) => this.#asks(personId, capability, uid('Way', `${paperId} ${way}`)));
  }

  #lineage(of: EntityJson['uid']): readonly EntityJson[] {
    const key = keyOf(of);
    const known = this.#lineages.get(key);
    if (known) return known;
    const own = this.#entities.get(key);
    const all = own ? [own, ...own.parents.flatMap((each) => this.#lineage(each))] : [];
    const once = [...new Map(all.map((each) => [keyOf(each.uid), each])).values()];
    this.#lineages.set(key, once);
    return once;
  }

  #asks(personId: string, capability: Capability, resource: { type: string; id: string }): boolean {
    const answer = statefulIsAuthorized({
      principal: uid('Person', personId),
      action: uid('Action', capability),
      resource,
      context: {},
      preparsedPolicySetId: setName,
      entities: [...this.#lineage(uid('Person', personId)), ...this.#lineage(resource)],
    });
    if (answer.type === 'failure') throw new Error(answer.errors.map((each) => each.message).join('; '));
    return answer.response.decision === 'allow';
  }
}

function castEntities({ people, groups, terms }: Cast): EntityJson[] {
  const parentsOf = (kind: 'person' | 'group', id: string) =>
    terms
      .filter(({ member, from, until }) => {
        const begun = from === null || from <= day;
        return begun && (until === null || day <= until) && member.kind === kind && member.id === id;
      })
      .map(({ groupId }) => uid('Group', groupId));
  return [
    ...people.map((id) => ({ uid: uid('Person', id), attrs: {}, parents: parentsOf('person', id) })),
    ...groups.map((id) => ({ uid: uid('Group', id), attrs: {}, parents: parentsOf('group', id) })),
  ];
}

const yardOf = (kind: 'Place' | 'Paper', id: string) => uid('Yard', `${kind} ${id}`);

function libraryEntities({ places, papers }: AccessLibrary): EntityJson[] {
  return [
    ...places.map(({ id, parentId, step }) => ({
      uid: uid('Place', id),
      attrs: {},
      parents: [yardOf('Place', id), ...(step.follows && parentId !== null ? [uid('Place', parentId)] : [])],
    })),
    ...places.map(({ id, parentId }) => ({
      uid: yardOf('Place', id),
      attrs: {},
      parents: parentId === null ? [] : [yardOf('Place', parentId)],
    })),
    ...papers.map(({ id, homeId }) => ({ uid: yardOf('Paper', id), attrs: {}, parents: [yardOf('Place', homeId)] })),
    ...papers.flatMap(({ id, homeId, step, openings }) => [
      { uid: uid('Paper', id), attrs: {}, parents: [] },
      {
        uid: uid('Way', `${id} home`),
        attrs: {},
        parents: [uid('Paper', id), yardOf('Paper', id), ...(step.follows ? [uid('Place', homeId)] : [])],
      },
      ...openings.map((placeId) => ({
        uid: uid('Way', `${id} ${placeId}`),
        attrs: {},
        parents: [uid('Paper', id), uid('Place', placeId)],
      })),
    ]),
  ];
}

interface Sheet {
  readonly entity: string;
  readonly grants: readonly Grant[];
}

function policiesOf({ places, papers }: AccessLibrary): string[] {
  const sheets: Sheet[] = [
    ...places.map(({ id, step }) => ({ entity: `Place::"${id}"`, grants: step.grants })),
    ...papers.map(({ id, step }) => ({ entity: `Paper::"${id}"`, grants: step.grants })),
  ];
  const parents = new Map(places.map(({ id, parentId }) => [id, parentId]));
  const isBelow = (id: string, topId: string): boolean => {
    for (let at = parents.get(id) ?? null; at !== null; at = parents.get(at) ?? null) if (at === topId) return true;
    return false;
  };
  const belowPlace = (topId: string): Sheet[] => [
    ...places.flatMap(({ id, step }) =>
      isBelow(id, topId) ? [{ entity: `Place::"${id}"`, grants: step.grants }] : [],
    ),
    ...sheets.filter(({ entity }) => entity.startsWith('Paper')),
  ];
  const permits = sheets.flatMap(({ entity, grants }) =>
    grants.flatMap(({ subject, gives }) =>
      gives === 0 ? [] : [`permit (${who(subject)}, action in ${actions(closed(gives))}, resource in ${entity});`],
    ),
  );
  const forbids = [
    ...places.map(({ id, step }) => ({ entity: `Place::"${id}"`, grants: step.grants, below: belowPlace(id) })),
    ...papers.map(({ id, step }) => ({ entity: `Paper::"${id}"`, grants: step.grants, below: [] as Sheet[] })),
  ].flatMap(({ entity, grants, below }) =>
    grants.flatMap(({ subject, withholds }) => {
      if (withholds === 0) return [];
      const set = has(withholds, 'see') ? 31 : withholds;
      const again = below.flatMap((sheet) =>
        sheet.grants.flatMap(({ subject: whom, gives }) =>
          gives === 0
            ? []
            : [`(resource in ${sheet.entity} && ${whoIs(whom)} && ${actions(closed(gives))}.contains(action))`],
        ),
      );
      const unless = again.length === 0 ? '' : ` unless { ${again.join(' || ')} }`;
      return [`forbid (${who(subject)}, action in ${actions(set)}, resource in ${entity})${unless};`];
    }),
  );
  return [...permits, ...forbids];
}

/**
 * What stands still is forbidden without exception. Standing alone is no matter for it, so the engine is told of the tree a
 * second time: by a paper's or place's "yard", that stands in the yard of what it lies in, whatever it follows.
 */
function standstillPolicies({ places, papers }: AccessLibrary, still: Standstills): string[] {
  const kinds = new Map([
    ...places.map(({ id }) => [id, 'Place'] as const),
    ...papers.map(({ id }) => [id, 'Paper'] as const),
  ]);
  return [...still].flatMap(([id, { locked, closed }]) => {
    const yard = `resource in Yard::"${kinds.get(id) ?? 'Place'} ${id}"`;
    return [
      ...(locked ? [`forbid (principal, action == Action::"amend", ${yard});`] : []),
      ...(closed ? [`forbid (principal, action in [Action::"add", Action::"amend"], ${yard});`] : []),
    ];
  });
}

const actions = (set: CapabilitySet): string =>
  `[${capabilities
    .filter((each) => has(set, each))
    .map((each) => `Action::"${each}"`)
    .join(', ')}]`;

function who(subject: Subject): string {
  if (subject.kind === 'everyone') return 'principal';
  return subject.kind === 'person' ? `principal == Person::"${subject.id}"` : `principal in Group::"${subject.id}"`;
}
const whoIs = (subject: Subject): string => (subject.kind === 'everyone' ? 'true' : who(subject));
