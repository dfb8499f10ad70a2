import { and, asc, eq, inArray, lte, not, or, sql, type SQL } from 'drizzle-orm';
import { graceDays } from '@/core/disposal/due';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import type { JournalEvent } from '@/core/journal/events';
import { appendToJournal } from '../acts/append';
import { acts } from '../acts/operation';
import { now } from '../base/clock';
import { removeUnneeded } from '../blobs/remove';
import { db, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { arrival, destroyedPaper, disposalRunItem, document, library, place, version } from '../db/schema';
import { transaction } from '../db/transaction';
import { placeFor } from '../gate/held';
import { paperIsLocked, paperIsStill } from '../gate/visible';
import { heldAmong, holdsInWords, paperIsHeld } from '../holds/held';
import { fullName } from '../known/places';
import { disposedFor } from './dispose';

/**
 * Destroys papers that lie in the disposal tray: every version, and all content that no other paper has. The journal keeps
 * that they were there. Needs `manage`, in places that are neither closed nor locked. All of them or none.
 */
export const destroyPapers = acts('papers.destroy', ['content'], async (tx, actor, { documentIds }) => {
  const papers = await disposedFor(tx, actor, documentIds, 'manage');
  if (papers.length < new Set(documentIds).size) refuse('not-found');
  for (const homeId of new Set(papers.map((paper) => paper.homeId))) await placeFor(tx, actor, homeId, 'manage');
  await refuseHeld(tx, documentIds);
  await destroy(tx, papers, actor.personId);
  return { entry: destroyed('papers.destroyed', papers), result: { destroyed: papers.length } };
});

/** Refuses papers that are under a hold: the hold always wins. */
async function refuseHeld(tx: Tx, ids: readonly string[]): Promise<void> {
  const held = await heldAmong(tx, ids);
  if (held.size === 0) return;
  refuse(
    'locked',
    `${counted(held.size, 'of these papers is', 'of these papers are')} under a hold: ${holdsInWords([...held.values()].flat())}. Nothing was destroyed.`,
  );
}

interface Disposed {
  readonly id: string;
  readonly title: string;
  readonly homeId: string;
}

/** The journal entry of papers that were destroyed. */
export const destroyed = (act: 'papers.destroyed' | 'papers.expired', papers: readonly Disposed[]): JournalEvent => ({
  act,
  subjects: [...papers.map(({ id }) => id), ...new Set(papers.map(({ homeId }) => homeId))],
  detail: { count: papers },
});

/** Destroys papers that lie in the disposal tray. The transaction has locked the content; none of them is under a hold. */
export async function destroy(tx: Tx, papers: readonly Disposed[], personId: string | null): Promise<void> {
  const ids = papers.map(({ id }) => id);
  const homes = await tx
    .select({ id: place.id, name: fullName })
    .from(place)
    .where(
      idIn(
        place.id,
        papers.map(({ homeId }) => homeId),
      ),
    );
  const nameOf = new Map(homes.map(({ id, name }) => [id, name]));
  const contents = await tx
    .selectDistinct({ sha256: version.sha256 })
    .from(version)
    .where(idIn(version.documentId, ids));
  await tx.insert(destroyedPaper).values(
    papers.map(({ id, title, homeId }) => ({
      id,
      title,
      homeName: nameOf.get(homeId) ?? '',
      destroyedAt: now(),
      destroyedBy: personId,
    })),
  );
  await tx
    .update(disposalRunItem)
    .set({ state: 'destroyed', destroyedAt: now() })
    .where(and(idIn(disposalRunItem.documentId, ids), eq(disposalRunItem.state, 'disposed')));
  // With them goes all that refers to them: versions, filings, labels, notes, changes that could be undone.
  await tx.delete(document).where(idIn(document.id, ids));
  const arrived = await forgetArrivals(tx, ids);
  await removeUnneeded(tx, [...contents.map(({ sha256 }) => sha256), ...arrived]);
}

/** Forgets the arrivals from which papers were filed, the same that arrived again, and scans of which, or of whose pages, they were made: their content was that of the papers. Returns their contents. */
async function forgetArrivals(tx: Tx, ids: readonly string[]): Promise<string[]> {
  const filed = await forgotten(tx, sql`${arrival.documentIds} && ${sql.param([...ids])}::uuid[]`);
  const gone = [...filed];
  // The stack that it came out of has its pages, and may be a part of another; and so have those that were joined to make it.
  for (let sources = filed; sources.length > 0;) {
    const stacks = sources.flatMap(({ partOf }) => partOf ?? []);
    const made = sources.map(({ id }) => id);
    sources = await forgotten(tx, or(inArray(arrival.id, stacks), inArray(arrival.joinedTo, made)));
    gone.push(...sources);
  }
  const keys = gone.flatMap(({ sameKey }) => sameKey ?? []);
  const again = keys.length === 0 ? [] : await forgotten(tx, inArray(arrival.sameKey, keys));
  return [...gone, ...again].map(({ sha256 }) => sha256);
}

const forgotten = (tx: Tx, which: SQL | undefined) =>
  tx
    .delete(arrival)
    .where(which)
    .returning({ id: arrival.id, sha256: arrival.sha256, sameKey: arrival.sameKey, partOf: arrival.partOf });

/** Whether a disposal by the schedule put a paper into the tray: those are destroyed in closed places too. */
const isInRun = sql`exists (select from ${disposalRunItem} where ${disposalRunItem.documentId} = ${document.id} and ${disposalRunItem.state} = 'disposed')`;

/** How many papers the worker destroys in one transaction: others wait for it. */
const atATime = 200;

/**
 * Destroys the papers whose days in the disposal tray are over, as the library's settings say. Those in closed or locked places
 * wait until these move again, those under a hold until it is lifted. Returns how many.
 */
export async function destroyExpired(): Promise<number> {
  let total = 0;
  for (;;) {
    const done = await transaction(['content'], async (tx) => {
      const expired = await expiredPapers(tx);
      if (expired.length === 0) return 0;
      await destroy(tx, expired, null);
      await appendToJournal(tx, null, destroyed('papers.expired', expired));
      return expired.length;
    });
    total += done;
    if (done < atATime) return total;
  }
}

async function expiredPapers(tx: Tx): Promise<Disposed[]> {
  const [settings] = await db().select({ trayDays: library.trayDays, since: library.trayDaysSince }).from(library);
  if (!settings || settings.trayDays === null) return [];
  if (now().getTime() < settings.since.getTime() + graceDays * 86_400_000) return [];
  const before = new Date(now().getTime() - settings.trayDays * 86_400_000);
  return tx
    .select({ id: document.id, title: document.title, homeId: document.homeId })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        lte(document.disposedAt, before),
        or(not(paperIsStill('amend')), and(isInRun, not(paperIsLocked))),
        not(await paperIsHeld(tx)),
      ),
    )
    .orderBy(asc(document.id))
    .limit(atATime)
    .for('update', { of: document });
}
