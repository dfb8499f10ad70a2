import { appendFile, readFile } from 'node:fs/promises';
import { desc, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { refuse } from '@/core/errors/refusal';
import type { JournalAnchor } from '@/core/journal/model';
import { actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db, type Reader } from '../db/client';
import { journal } from '../db/schema';
import { requireKeeper } from '../gate/keeper';
import { journalState } from '../journal/verify';

/**
 * The hash chain shows when an entry was changed or removed, but not when its last entries were cut off. So the chain's
 * head is written from time to time to a file outside the database, one line of JSON each, best kept out of reach of
 * whoever administers the database.
 */
const anchorSchema = z.object({ at: z.string(), entryId: z.number().int(), hash: z.string() });

/** How many of the newest anchors are checked: several years' worth at one a day and one a start. */
const mostAnchors = 5000;

/** The anchors of the file, the oldest first. */
export async function readAnchors(): Promise<JournalAnchor[]> {
  const file = config().EMBRIN_ANCHORS;
  if (file === '') return [];
  const text = await readFile(/* turbopackIgnore: true */ file, 'utf8').catch(() => '');
  return text
    .split('\n')
    .filter((line) => line !== '')
    .slice(-mostAnchors)
    .flatMap((line) => {
      try {
        return anchorSchema.safeParse(JSON.parse(line)).data ?? [];
      } catch {
        // Skips a line whose writing was interrupted.
        return [];
      }
    });
}

/** Writes the journal's head to the anchor file; null if no file is configured or the journal is empty. */
export async function writeAnchor(): Promise<JournalAnchor | null> {
  const file = config().EMBRIN_ANCHORS;
  const [head] = await db()
    .select({ entryId: journal.id, hash: journal.hash })
    .from(journal)
    .orderBy(desc(journal.id))
    .limit(1);
  if (file === '' || !head) return null;
  const anchor = { at: now().toISOString(), ...head };
  await appendFile(/* turbopackIgnore: true */ file, `${JSON.stringify(anchor)}\n`, { mode: 0o600 });
  return anchor;
}

/**
 * Anchors whose entry is missing from the journal or has another hash.
 * @param anchors read before the reader's snapshot was taken: a later one may be of an entry that the snapshot does not have
 */
export async function brokenAnchors(
  reader: Reader,
  anchors: readonly JournalAnchor[],
): Promise<{ anchors: readonly JournalAnchor[]; broken: JournalAnchor[] }> {
  if (anchors.length === 0) return { anchors, broken: [] };
  const rows = await reader
    .select({ id: journal.id, hash: journal.hash })
    .from(journal)
    .where(inArray(journal.id, [...new Set(anchors.map((each) => each.entryId))]));
  const hashes = new Map(rows.map((row) => [row.id, row.hash]));
  return { anchors, broken: anchors.filter((each) => hashes.get(each.entryId) !== each.hash) };
}

/** The state of the anchors; with `check`, also whether the chain is whole and agrees with them. */
export const heldJournal = asks('journal.held', async (actor, { check }) => {
  requireKeeper(actor);
  const { anchors, broken } = await brokenAnchors(db(), await readAnchors());
  const state = check ? await journalState(db()) : null;
  const [first] = broken;
  return {
    anchors: anchors.length,
    last: anchors.at(-1) ?? null,
    isKept: config().EMBRIN_ANCHORS !== '',
    checked: state && {
      entries: state.entries,
      brokenAt: state.brokenAt ?? first?.entryId ?? null,
      how: state.brokenAt !== null ? 'changed' : first ? 'cutOff' : 'whole',
    },
  };
});

/** Writes an anchor at a keeper's request. Changes nothing in the library. */
export const anchorJournal = actsInSteps('journal.anchor', async (actor) => {
  requireKeeper(actor);
  return (
    (await writeAnchor()) ??
    refuse(
      'unavailable',
      'No file is named in which the journal’s head could be written down. Ask who runs the machine.',
    )
  );
});
