import { capabilities, has } from '@/core/access/capability';
import type { Actor } from '@/server/gate/actor';
import { capabilitiesIn, capabilitiesOn } from '@/server/gate/held';
import { partBelow, partOfPapers } from '@/server/scopes/parts';
import { db } from '@/server/db/client';
import { document, person, place } from '@/server/db/schema';
import { termsOf, today } from '@/server/scopes/memberships';
import { rootOf } from '@/server/verify/root';
import { verifyLibrary } from '@/server/verify/verify';
import { Scene } from '../attack/randomActs';
import { Chance } from '../oracle/chance';
import { plainAtPaper, plainAtPlace } from '../oracle/plainAccess';
import { dropPlanted, freshLibrary } from '../library';

/** Seeds of the libraries, and how many acts six people do on each; more by the environment, for a search at leisure. */
const libraries = Number(process.env['EMBRIN_RANDOM_LIBRARIES'] ?? 2);
const actsEach = Number(process.env['EMBRIN_RANDOM_ACTS'] ?? 400);
const firstSeed = Number(process.env['EMBRIN_RANDOM_SEED'] ?? 1400);

/** Where what is stored of access is not what the plainest reading of the sheets gives. */
async function readDifferently(): Promise<string[]> {
  const part = await partBelow(db(), await rootOf(db()));
  const papers = await db().select({ id: document.id }).from(document);
  const listed = await partOfPapers(
    db(),
    papers.map((row) => row.id),
  );
  const library = { places: part.library.places, papers: listed.library.papers };
  const people = await db()
    .select({
      personId: person.id,
      active: person.active,
      keeper: person.keeper,
      name: person.name,
      email: person.email,
    })
    .from(person);
  const cast = {
    people: people.map((each) => each.personId),
    groups: [],
    terms: await termsOf(db()),
    standings: [],
    day: await today(db()),
  };
  const scopes = new Map(
    (await db().select({ id: place.id, scopeId: place.scopeId }).from(place)).map((row) => [row.id, row.scopeId]),
  );
  const wrong: string[] = [];
  const words = (set: number) => capabilities.filter((each) => has(set, each)).join();
  for (const each of people) {
    if (!each.active) continue;
    // Keepers are asked as if they were none: what sheets give them is stored, too.
    const who: Actor = { ...each, keeper: false };
    for (const { id } of library.places) {
      const is = words(await capabilitiesIn(db(), who, scopes.get(id) ?? null));
      const should = capabilities.filter((one) => plainAtPlace(library, cast, id, who.personId).has(one)).join();
      if (is !== should) wrong.push(`${who.name} at the place ${id}: ${is} and should be ${should}`);
    }
    for (const { id } of library.papers) {
      const is = words(await capabilitiesOn(db(), who, id));
      const should = capabilities.filter((one) => plainAtPaper(library, cast, id, who.personId).has(one)).join();
      if (is !== should) wrong.push(`${who.name} on the paper ${id}: ${is} and should be ${should}`);
    }
  }
  return wrong;
}

it.each(Array.from({ length: libraries }, (_, at) => firstSeed + at))(
  'leaves everything as the sheets say after random acts by six people at once (seed %i)',
  async (seed) => {
    const keeper = await freshLibrary();
    try {
      const scene = await Scene.furnish(keeper);
      let left = actsEach;
      await Promise.all(
        scene.actors.map(async (actor, at) => {
          const chance = new Chance(seed * 100 + at);
          while (left-- > 0) await scene.act(chance, actor);
        }),
      );
      const outcomes = [...scene.outcomes].sort(([a], [b]) => (a < b ? -1 : 1));
      if (process.env['EMBRIN_RANDOM_TELL'] !== undefined)
        console.log(seed, outcomes.map(([what, times]) => `${what} ${times}`).join('; '));
      expect(outcomes.filter(([what]) => what.endsWith(': done')).length).toBeGreaterThan(15);
      expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
      expect(await readDifferently()).toEqual([]);
    } finally {
      await dropPlanted();
    }
  },
);
