import { DatabaseError, Pool } from 'pg';
import { eq } from 'drizzle-orm';
import { listOf, readySets, type ReadySet } from '@/core/access/capability';
import { Refusal } from '@/core/errors/refusal';
import type { Actor } from '@/server/gate/actor';
import { setAccess } from '@/server/access/change';
import { db, disconnect } from '@/server/db/client';
import { person, place } from '@/server/db/schema';
import { stopQueue } from '@/server/jobs/queue';
import { foundLibrary } from '@/server/library/found';
import { invite, join } from '@/server/people/people';
import { createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { openPlace } from '@/server/places/open';
import { isThere, verifyLibrary } from '@/server/verify/verify';
import { stopTally } from '@/server/tally/host';

/** The passwords of those this file makes. */
export const passwords = { keeper: 'a password of some length', others: 'another long password' } as const;

const cluster = (): string => process.env['EMBRIN_TEST_CLUSTER'] ?? '';
let made = '';

/** A database of this test file's own, copied from the template, in which no library is founded yet. */
export async function emptyLibrary(): Promise<void> {
  made = `embrin_test_${process.pid}_${Math.random().toString(36).slice(2, 8)}`;
  const admin = new Pool({ connectionString: cluster() });
  await admin.query(`create database ${made} template embrin_template`);
  await admin.end();
  const own = new URL(cluster());
  own.pathname = `/${made}`;
  process.env['DATABASE_URL'] = own.href;
}

/** A database of this test file's own with a founded library and its keeper. */
export async function freshLibrary(): Promise<Actor> {
  await emptyLibrary();
  const { keeperId } = await foundLibrary({
    libraryName: 'Test Trust',
    name: 'Kea Keeper',
    email: 'kea@test.example',
    password: passwords.keeper,
    timeZone: 'Europe/London',
    yearStartMonth: 4,
  });
  return { personId: keeperId, name: 'Kea Keeper', email: 'kea@test.example', keeper: true };
}

/** A library with a dossier in a series that one other person may open. */
export async function sharedLibrary(as: ReadySet = 'reader') {
  const keeper = await freshLibrary();
  const reader = await newcomer(keeper, 'Rea Der');
  const home = await furnished(keeper);
  await open(keeper, home.series.id, reader, as);
  return { keeper, reader, home };
}

/** Lets go of the database, once all that is derived in it has been held to what people said. */
export async function dropLibrary(): Promise<void> {
  const differences = (await isThere()) ? await verifyLibrary({ contentBytes: true }) : [];
  await dropPlanted();
  if (differences.length > 0) throw new Error(`The library is not as it should be: ${JSON.stringify(differences)}`);
}

/** The same for a library whose rows were written past the use-cases: nothing in it was derived. */
export async function dropPlanted(): Promise<void> {
  await stopQueue();
  await stopTally();
  await disconnect();
  const admin = new Pool({ connectionString: cluster() });
  await dropDatabase(admin);
  await admin.end();
}

/**
 * Drops the database that was made. While the server's own housekeeping is at work in it, which only the server may end
 * (SQLSTATE 42501), it is tried again.
 */
async function dropDatabase(admin: Pool): Promise<void> {
  for (let tries = 1; ; tries += 1) {
    try {
      await admin.query(`drop database if exists ${made} with (force)`);
      return;
    } catch (error) {
      if (tries === 200 || !(error instanceof DatabaseError) || error.code !== '42501') throw error;
      await new Promise((again) => setTimeout(again, 100));
    }
  }
}

/** Someone who joins by invitation. */
export async function newcomer(keeper: Actor, name: string): Promise<Actor> {
  const email = `${name.toLowerCase().replaceAll(' ', '.')}@test.example`;
  const { link } = await invite(keeper, { name, email, keeper: false });
  await join({ token: link.slice(link.lastIndexOf('/') + 1), name, password: passwords.others });
  const [row] = await db().select({ id: person.id }).from(person).where(eq(person.email, email));
  if (!row) throw new Error(`${name} did not join`);
  return { personId: row.id, name, email, keeper: false };
}

/** A series with one dossier and the place of its one filing year. */
export async function furnished(keeper: Actor, name = 'Committees') {
  const series = await createSeries(keeper, { name, referencePattern: 'C-###' });
  const dossier = await createDossier(keeper, { seriesId: series.id, name: 'Finance', reference: null });
  const { children } = await openPlace(keeper, { placeId: dossier.id });
  const year = children[0];
  if (!year) throw new Error('The dossier has no filing year');
  return { series, dossier, year };
}

/** Gives a person a ready set of capabilities at a place, in place of what its sheet said before. */
export async function open(keeper: Actor, placeId: string, who: Actor, as: ReadySet): Promise<void> {
  const [row] = await db().select({ revision: place.accessRevision }).from(place).where(eq(place.id, placeId));
  await setAccess(keeper, {
    on: { kind: 'place', id: placeId },
    follows: true,
    revision: row?.revision ?? 0,
    message: null,
    grants: [{ subject: { kind: 'person', id: who.personId }, gives: listOf(readySets[as]), withholds: [] }],
  });
}

/** What became of some work: done, or the kind of its refusal. */
export const refusedAs = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'done',
    (error: unknown) => (error instanceof Refusal ? error.issue.kind : String(error)),
  );

/** What is said where work is refused, with the kind of refusal before it; 'done' where it is not. */
export const refusal = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'done',
    (error: unknown) => (error instanceof Refusal ? `${error.issue.kind}: ${error.issue.says}` : String(error)),
  );

/** People as members of a group without an end. */
export const inGroup = (...people: readonly Pick<Actor, 'personId'>[]) =>
  people.map(({ personId }) => ({
    member: { kind: 'person' as const, id: personId },
    role: 'member' as const,
    from: null,
    until: null,
  }));

/** A question about a view that asks for everything there is, in plain order. */
export const plainQuestion = {
  below: false,
  filter: '',
  conditions: [],
  groupings: [],
  sorts: [],
  counts: [],
  measures: [],
  start: 0,
  limit: 1000,
};

/** Resolves after some turns of the event loop, so that two acts meet at another moment in each round. */
export const turns = async (count: number): Promise<void> => {
  for (let at = 0; at < count; at += 1) await new Promise((next) => setImmediate(next));
};
