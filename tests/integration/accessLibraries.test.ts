import { sql } from 'drizzle-orm';
import { capabilities, has, noCapabilities, type Capability } from '@/core/access/capability';
import { resolveLibrary, type AccessLibrary, type Resolved } from '@/core/access/library';
import { addsNothing, type Grant } from '@/core/access/resolve';
import { atStandstill, type Standstills } from '@/core/standstill/standstill';
import type { Actor } from '@/server/gate/actor';
import { accessSheet } from '@/server/access/sheet';
import { setAccess, undoAccess } from '@/server/access/change';
import { recomputeAllScopes } from '@/server/scopes/scopes';
import { partBelow, grantees } from '@/server/scopes/parts';
import { paperAllows, paperIsStill, placeAllows, placeIsKnown, placeIsStill } from '@/server/gate/visible';
import { atMoment } from '@/server/base/clock';
import { writableDb } from '@/server/db/client';
import { document, groupTerm, place } from '@/server/db/schema';
import { transaction } from '@/server/db/transaction';
import { movePapers } from '@/server/documents/amend';
import { recomputeMemberships } from '@/server/scopes/memberships';
import { createGroup } from '@/server/people/people';
import { movePlace } from '@/server/places/move';
import { Chance } from '../oracle/chance';
import { plainAtPaper } from '../oracle/plainAccess';
import { PolicyEngine } from '../oracle/policyEngine';
import { day, randomAccess, randomCast, randomStandstills, randomStep, type Cast } from '../oracle/randomAccess';
import { dropPlanted, freshLibrary, newcomer } from '../library';

let keeper: Actor;
let people: Actor[];
let groups: string[];
let rootId: string;
const noon = new Date(`${day}T12:00:00Z`);

beforeAll(async () => {
  keeper = await freshLibrary();
  people = [];
  for (const name of ['Ann One', 'Ben Two', 'Cleo Three']) people.push(await newcomer(keeper, name));
  groups = [];
  for (const name of ['First', 'Second', 'Third']) groups.push((await createGroup(keeper, { name })).id);
  const [root] = await writableDb().select({ id: place.id }).from(place);
  rootId = root?.id ?? '';
});
afterAll(dropPlanted);

/** A new cast of the same people and groups, and nothing else in the library. */
async function cleared(chance: Chance): Promise<Cast> {
  await writableDb().execute(sql`
    truncate access_grant, access_change, filing, scope_entry, group_term, tally_change;
    update document set scope_id = null; update place set scope_id = null;
    delete from scope; delete from document; delete from place where parent_id is not null`);
  const cast = randomCast(
    chance,
    people.map((each) => each.personId),
    groups,
  );
  if (cast.terms.length > 0)
    await writableDb()
      .insert(groupTerm)
      .values(
        cast.terms.map(({ groupId, member, from, until }) => ({
          groupId,
          personId: member.kind === 'person' ? member.id : null,
          memberGroupId: member.kind === 'group' ? member.id : null,
          fromDay: from,
          untilDay: until,
        })),
      );
  await atMoment(noon, () => transaction(['people', 'access'], recomputeMemberships));
  return cast;
}

/** Writes libraries as rows, each a series beneath the library itself. */
async function write(libraries: readonly AccessLibrary[]): Promise<void> {
  const lineages = new Map<string, string[]>([[rootId, [rootId]]]);
  const places = libraries.flatMap(({ places: some }) =>
    some.map(({ id, parentId, step }) => {
      const lineage = [...(lineages.get(parentId ?? '') ?? []), id];
      lineages.set(id, lineage);
      return { id, parent: parentId, kind: parentId === rootId ? 'series' : 'folder', lineage, follows: step.follows };
    }),
  );
  const papers = libraries.flatMap((library) => library.papers);
  await writableDb().execute(sql`
    insert into place (id, parent_id, kind, name, name_key, search_key, position, lineage, follows)
    select id, parent, kind, id, id, id, 1, array(select jsonb_array_elements_text(lineage)::uuid), follows
    from jsonb_to_recordset(${JSON.stringify(places)}::jsonb)
      as given (id uuid, parent uuid, kind text, lineage jsonb, follows boolean)`);
  await writableDb().execute(sql`
    insert into document (id, home_id, title, title_key, search_key, stamp, size_bytes, filed_by, filed_at, changed_by, changed_at, follows)
    select id, home, id, id, id, 'TEXT', 1, ${keeper.personId}, now(), ${keeper.personId}, now(), follows
    from jsonb_to_recordset(${JSON.stringify(
      papers.map(({ id, homeId, step }) => ({ id, home: homeId, follows: step.follows })),
    )}::jsonb) as given (id uuid, home uuid, follows boolean)`);
  const line = (owner: object) => (grant: Grant) => ({
    ...owner,
    person: grant.subject.kind === 'person' ? grant.subject.id : null,
    group: grant.subject.kind === 'group' ? grant.subject.id : null,
    everyone: grant.subject.kind === 'everyone',
    gives: grant.gives,
    withholds: grant.withholds,
  });
  const grants = [
    ...libraries.flatMap(({ places: some }) => some.flatMap(({ id, step }) => step.grants.map(line({ place: id })))),
    ...papers.flatMap(({ id, step }) => step.grants.map(line({ paper: id }))),
  ];
  await writableDb().execute(sql`
    insert into access_grant (place_id, document_id, person_id, group_id, everyone, gives, withholds)
    select place, paper, person, "group", everyone, gives, withholds from jsonb_to_recordset(${JSON.stringify(grants)}::jsonb)
      as given (place uuid, paper uuid, person uuid, "group" uuid, everyone boolean, gives int, withholds int)`);
  const openings = papers.flatMap(({ id, openings: some }) => some.map((at) => ({ id, at })));
  await writableDb().execute(sql`
    insert into filing (document_id, place_id, kind, made_by, made_at)
    select id, at, 'opening', ${keeper.personId}, now()
    from jsonb_to_recordset(${JSON.stringify(openings)}::jsonb) as given (id uuid, at uuid)`);
  // Pointers beside them, which may change nothing.
  await writableDb().execute(sql`
    insert into filing (document_id, place_id, kind, made_by, made_at)
    select distinct on (document.id) document.id, place.id, 'pointer', ${keeper.personId}, now()
    from document join place on place.id <> document.home_id and place.lineage[2] = (
      select home.lineage[2] from place as home where home.id = document.home_id)
    on conflict do nothing`);
}

const idsWhere = {
  places: async (which: ReturnType<typeof sql>) =>
    new Set((await writableDb().select({ id: place.id }).from(place).where(which)).map((row) => row.id)),
  papers: async (which: ReturnType<typeof sql>) =>
    new Set((await writableDb().select({ id: document.id }).from(document).where(which)).map((row) => row.id)),
};

/** Writes what is locked and closed. */
async function holdStill(still: Standstills): Promise<void> {
  const rows = JSON.stringify([...still].map(([id, each]) => ({ id, ...each })));
  const given = sql`jsonb_to_recordset(${rows}::jsonb) as given (id uuid, locked boolean, closed boolean)`;
  await writableDb().execute(sql`
    update place set locked = given.locked, closed = given.closed from ${given} where given.id = place.id`);
  await writableDb().execute(sql`update document set locked = given.locked from ${given} where given.id = document.id`);
}

/** The same of what someone may do at this moment, with what is locked and closed. */
async function stillAgainst(now: Resolved): Promise<string[]> {
  const wrong: string[] = [];
  for (const who of people)
    for (const capability of ['see', 'add', 'amend'] as const)
      for (const kind of ['places', 'papers'] as const) {
        const let_ = await idsWhere[kind](
          kind === 'places'
            ? sql`${placeAllows(who, capability)} and not ${placeIsStill(capability)}`
            : sql`${paperAllows(who, capability)} and not ${paperIsStill(capability)}`,
        );
        for (const [id, sight] of now[kind])
          if (has(sight.get(who.personId) ?? noCapabilities, capability) !== let_.has(id))
            wrong.push(`${who.name} ${capability} ${kind} ${id} now: ${let_.has(id) ? 'let in' : 'kept out'} by SQL`);
      }
  return wrong;
}

/** Where the gate in SQL lets someone through who, by `core/access`, may not, or the other way round. */
async function gateAgainst(resolved: Resolved): Promise<string[]> {
  const wrong: string[] = [];
  for (const who of people)
    for (const capability of capabilities)
      for (const kind of ['places', 'papers'] as const) {
        const let_ = await idsWhere[kind](
          kind === 'places' ? placeAllows(who, capability) : paperAllows(who, capability),
        );
        for (const [id, sight] of resolved[kind])
          if (has(sight.get(who.personId) ?? noCapabilities, capability) !== let_.has(id))
            wrong.push(`${who.name} ${capability} ${kind} ${id}: ${let_.has(id) ? 'let in' : 'kept out'} by SQL`);
        if ([...let_].some((id) => !resolved[kind].has(id) && id !== rootId)) wrong.push(`${kind} that nobody made`);
      }
  return wrong;
}

/** Where someone knows of a place otherwise than by seeing it, or something of its own standing below it. */
async function knownAgainst(resolved: Resolved, libraries: readonly AccessLibrary[], cast: Cast): Promise<string[]> {
  const wrong: string[] = [];
  for (const who of people) {
    const known = await idsWhere.places(placeIsKnown(who));
    for (const { places, papers } of libraries) {
      const parents = new Map(places.map((each) => [each.id, each.parentId]));
      const sees = (sight: ReadonlyMap<string, number> | undefined) => has(sight?.get(who.personId) ?? 0, 'see');
      const steps = new Set<string>();
      const walk = (from: string) => {
        for (let at: string | null = from; at !== null && at !== rootId; at = parents.get(at) ?? null) steps.add(at);
      };
      for (const { id } of places) if (sees(resolved.places.get(id))) walk(id);
      // Only what a paper's own sheet opens leads to it; who comes in by a cross-filing learns nothing of the home.
      const shut = { places, papers: papers.map((paper) => ({ ...paper, openings: [] })) };
      for (const { id, homeId, step, openings } of papers) {
        const byItself =
          openings.length === 0 ? sees(resolved.papers.get(id)) : plainAtPaper(shut, cast, id, who.personId).has('see');
        if (!addsNothing(step) && byItself) walk(homeId);
      }
      for (const { id } of places)
        if (known.has(id) !== steps.has(id)) wrong.push(`${who.name} and the place ${id}: ${known.has(id)}`);
    }
  }
  return wrong;
}

it('gives one answer in 2,000 random libraries by core/access, by SQL and by an independent policy engine', async () => {
  let [checks, papers] = [0, 0];
  for (let batch = 0; batch < 4; batch += 1) {
    const chance = new Chance(7000 + batch);
    const cast = await cleared(chance);
    const libraries = Array.from({ length: 500 }, () => randomAccess(chance, cast, rootId));
    await write(libraries);
    await transaction(['access'], recomputeAllScopes);
    const whole: AccessLibrary = {
      places: libraries.flatMap((each) => each.places),
      papers: libraries.flatMap((each) => each.papers),
    };
    const resolved = resolveLibrary(whole, cast.standings, new Map([[rootId, new Map()]]));
    expect(await gateAgainst(resolved)).toEqual([]);
    expect(await knownAgainst(resolved, libraries, cast)).toEqual([]);
    const still = new Map(libraries.flatMap((each) => [...randomStandstills(chance, each)]));
    await holdStill(still);
    const now = atStandstill(whole, resolved, still, new Map());
    expect(await stillAgainst(now)).toEqual([]);
    papers += whole.papers.length;
    for (const library of libraries) {
      const here = [...library.places, ...library.papers].flatMap(({ id }) => {
        const standstill = still.get(id);
        return standstill ? [[id, standstill] as const] : [];
      });
      const engine = new PolicyEngine(library, cast, new Map(here));
      const also = chance.happens(0.5) ? 'amend' : chance.pick(capabilities);
      for (const { personId } of people)
        for (const { id } of library.papers)
          for (const capability of library.papers.length === 1
            ? new Set<Capability>(['see', also])
            : (['see'] as const)) {
            checks += 1;
            if (engine.atPaper(id, personId, capability) !== has(now.papers.get(id)?.get(personId) ?? 0, capability))
              throw new Error(`The engine says otherwise of ${capability} at the paper ${id}`);
          }
    }
  }
  // Seeing, of every paper by everyone; and of some one more capability.
  expect(checks).toBeGreaterThan(papers * people.length);
  expect(papers).toBeGreaterThan(3000);
});

it('stays so through sheets saved and undone, places and papers moved, on places and papers alike', async () => {
  const chance = new Chance(91);
  const cast = await cleared(chance);
  const libraries = Array.from({ length: 12 }, () => randomAccess(chance, cast, rootId));
  await write(libraries);
  await transaction(['access'], recomputeAllScopes);
  const [places, papers] = [
    libraries.flatMap((each) => each.places.map((one) => one.id)),
    libraries.flatMap((each) => each.papers.map((one) => one.id)),
  ];
  const entries: number[] = [];
  const quietly = <T>(work: Promise<T>): Promise<T | null> => work.catch(() => null);
  for (let change = 0; change < 80; change += 1) {
    const what = chance.whole(0, 4);
    if (what < 2) {
      const on =
        what === 0
          ? { kind: 'place' as const, id: chance.pick(places) }
          : { kind: 'paper' as const, id: chance.pick(papers) };
      const { revision } = await accessSheet(keeper, { on });
      const { follows, grants } = randomStep(chance, cast);
      const done = await setAccess(keeper, {
        on,
        follows,
        grants: grants.map(({ subject, gives, withholds }) => ({
          subject,
          gives: capabilities.filter((each) => has(gives, each)),
          withholds: capabilities.filter((each) => has(withholds, each)),
        })),
        revision,
        message: null,
      });
      if (done.entryId !== null) entries.push(done.entryId);
    } else if (what === 2 && entries.length > 0) await quietly(undoAccess(keeper, { entryId: chance.pick(entries) }));
    else if (what === 3) await quietly(movePlace(keeper, { placeId: chance.pick(places), toId: chance.pick(places) }));
    else await quietly(movePapers(keeper, { documentIds: [chance.pick(papers)], toId: chance.pick(places) }));
    const { library } = await partBelow(writableDb(), rootId);
    const listed = new Set(library.papers.map((each) => each.id));
    const homes = await writableDb().select({ id: document.id, homeId: document.homeId }).from(document);
    const plain = homes
      .filter((row) => !listed.has(row.id))
      .map((row) => ({ ...row, step: { follows: true, grants: [] }, openings: [] }));
    const resolved = resolveLibrary(
      { ...library, papers: [...library.papers, ...plain] },
      await grantees(writableDb()),
    );
    expect(await gateAgainst(resolved)).toEqual([]);
  }
  expect(entries.length).toBeGreaterThan(20);
});
