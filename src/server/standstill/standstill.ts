import { and, eq } from 'drizzle-orm';
import { difference } from '@/core/access/impact';
import { resolveLibrary } from '@/core/access/library';
import { atStandstill, stoppedBy, type Standstill, type Standstills } from '@/core/standstill/standstill';
import type { CapabilitySet } from '@/core/access/capability';
import { invalidField } from '@/core/errors/issue';
import { refuse, Refusal } from '@/core/errors/refusal';
import { acts, asks } from '../acts/operation';
import type { Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { document, place } from '../db/schema';
import { snapshot } from '../db/transaction';
import { catchUpYears } from '../years/years';
import { linesOf } from '../access/forecast';
import { papersFor, placeFor, standstillOf } from '../gate/held';
import { partBelow, partOfPapers, grantees, type LibraryPart } from '../scopes/parts';

/** Locks or unlocks papers. Needs `manage`. */
export const setLock = acts('papers.setLock', [], async (tx, actor, input) => {
  const papers = await papersFor(tx, actor, input.documentIds, 'manage', 'evenClosed');
  const turning = papers.filter((paper) => paper.locked !== input.locked);
  const turned = turning.map((paper) => paper.id);
  if (turned.length === 0) return { entry: null, result: { turned } };
  await tx.update(document).set({ locked: input.locked }).where(idIn(document.id, turned));
  const act = input.locked ? 'papers.locked' : 'papers.unlocked';
  return { entry: { act, subjects: turned, detail: { count: turning } }, result: { turned } };
});

/**
 * Closes, reopens, locks or unlocks a place. Needs `manage`; reopening and unlocking also need a reason, which goes into
 * the journal.
 */
export const setStandstill = acts('place.setStandstill', ['tree', 'access', 'given'], async (tx, actor, input) => {
  const found = await placeFor(tx, actor, input.placeId, 'manage', 'evenClosed');
  if (found.parentId === null) refuse('not-allowed', 'The library itself is neither closed nor locked.');
  if (found.revision !== input.revision) refuse('conflict');
  const before: Standstill = found;
  const { locked, closed } = input;
  const result = { revision: found.revision };
  if (before.locked === locked && before.closed === closed) return { entry: null, result };
  const loosens = (before.locked && !locked) || (before.closed && !closed);
  if (loosens && input.reason === '')
    throw new Refusal(invalidField('reason', 'A reason is needed: the journal keeps it.'));
  const changed = await tx
    .update(place)
    .set({ locked, closed, revision: found.revision + 1 })
    .where(and(eq(place.id, found.id), eq(place.revision, found.revision)))
    .returning({ id: place.id });
  if (changed.length === 0) refuse('conflict');
  if (before.closed && !closed) await catchUpYears(tx, actor, found.id);
  const act =
    before.closed !== closed
      ? closed
        ? 'place.closed'
        : 'place.reopened'
      : locked
        ? 'place.locked'
        : 'place.unlocked';
  const reason = input.reason === '' ? 'no reason given' : input.reason;
  return {
    entry: { act, subjects: [found.id], detail: { name: found.name, reason, locked, closed } },
    result: { revision: found.revision + 1 },
  };
});

/** Who could do less, or more, after locking, closing, unlocking or reopening. */
export const forecastStandstill = asks('standstill.forecast', async (actor, { on, locked, closed }) => {
  return snapshot(async (tx) => {
    if (on.kind === 'place') await placeFor(tx, actor, on.id, 'manage', 'evenClosed');
    else await papersFor(tx, actor, [on.id], 'manage', 'evenClosed');
    const part = on.kind === 'place' ? await partBelow(tx, on.id) : await partOfPapers(tx, [on.id]);
    const own = await ownStandstills(tx, part);
    const above = await stoppedAround(tx, part);
    const resolved = resolveLibrary(part.library, await grantees(tx), part.known);
    const before = atStandstill(part.library, resolved, own, above);
    const after = atStandstill(part.library, resolved, new Map([...own, [on.id, { locked, closed }]]), above);
    return linesOf(tx, actor, part, difference(before, after));
  });
});

/** Which places and papers of a part are themselves locked or closed. */
async function ownStandstills(reader: Reader, { library }: LibraryPart): Promise<Standstills> {
  const places = await reader
    .select({ id: place.id, locked: place.locked, closed: place.closed })
    .from(place)
    .where(
      idIn(
        place.id,
        library.places.map((each) => each.id),
      ),
    );
  const papers = await reader
    .select({ id: document.id, locked: document.locked })
    .from(document)
    .where(
      idIn(
        document.id,
        library.papers.map((each) => each.id),
      ),
    );
  return new Map<string, Standstill>([
    ...places.map(({ id, ...standstill }) => [id, standstill] as const),
    ...papers.map(({ id, locked }) => [id, { locked, closed: false }] as const),
  ]);
}

/** What is stopped in the places around a part. */
async function stoppedAround(reader: Reader, { known }: LibraryPart): Promise<ReadonlyMap<string, CapabilitySet>> {
  const stopped = new Map<string, CapabilitySet>();
  for (const id of known.keys()) {
    const [found] = await reader.select({ lineage: place.lineage }).from(place).where(eq(place.id, id));
    if (found) stopped.set(id, stoppedBy(await standstillOf(reader, found.lineage)));
  }
  return stopped;
}
