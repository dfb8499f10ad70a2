import { db } from '../db/client';
import { snapshot, transaction } from '../db/transaction';
import { readAnchors } from '../anchors/anchor';
import { appendToJournal } from '../acts/append';
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
import { tallyDifferences } from './tally';
import { mendTree, treeDifferences } from './tree';
import { wordDifferences } from './words';

/**
 * Recomputes all derived data and returns where the stored data differs. Reads everything in one snapshot, so that a
 * library in use can be checked; the tally is asked after it.
 */
export async function verifyLibrary(depth: Depth): Promise<Difference[]> {
  const anchors = await readAnchors();
  const differences = await snapshot(async (tx) => [
    ...(await treeDifferences(tx)),
    ...(await accessDifferences(tx)),
    ...(await givenDifferences(tx)),
    ...(await countDifferences(tx)),
    ...(await contentDifferences(tx, depth)),
    ...(await wordDifferences(tx)),
    ...(await journalDifferences(tx, anchors)),
  ]);
  return [...differences, ...(await tallyDifferences(await rootOf(db())))];
}

/**
 * Corrects all derived data in one act: the tree, memberships, access, given and shown values. Content and the journal
 * are not derived, so errors in them can only be reported.
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
