import { db } from '../db/client';
import { snapshot, transaction } from '../db/transaction';
import { appendToJournal } from '../journal/append';
import type { Actor } from '../gate/actor';
import { recomputeMemberships } from '../scopes/memberships';
import { recomputeGiven } from '../columns/given';
import type { Depth, Difference } from './difference';
import { rootOf } from './root';
import { accessDifferences } from './access';
import { contentDifferences } from './content';
import { givenDifferences } from './given';
import { journalDifferences } from './chain';
import { countDifferences } from './counts';
import { mendTree, treeDifferences } from './tree';

/**
 * Works out all that is derived from what people say, and answers where what is stored is something else. All of it is read in
 * one snapshot, so that a library which is in use is compared with itself at one moment.
 */
export async function verifyLibrary(depth: Depth): Promise<Difference[]> {
  return snapshot(async (tx) => [
    ...(await treeDifferences(tx)),
    ...(await accessDifferences(tx)),
    ...(await givenDifferences(tx)),
    ...(await countDifferences(tx)),
    ...(await contentDifferences(tx, depth)),
    ...(await journalDifferences(tx)),
  ]);
}

/**
 * Puts all derived data right, in one act: where places stand, who belongs to which group, who may do what, what places give and
 * papers show. Content and the journal are not derived from anything: what is wrong with them can only be told.
 */
export async function mendLibrary(by: Actor): Promise<void> {
  await transaction(['people', 'tree', 'access', 'given'], async (tx) => {
    await mendTree(tx);
    await recomputeMemberships(tx);
    await recomputeGiven(tx, await rootOf(tx));
    await appendToJournal(tx, by, { act: 'library.mended', subjects: [], detail: {} });
  });
}

/** Whether there is a library to verify. */
export async function isThere(): Promise<boolean> {
  return (await rootOf(db())) !== '';
}
