import { sql } from 'drizzle-orm';
import type { Capability } from '@/core/access/capability';
import type { Actable, ActOnSeveral } from '@/core/documents/contract';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { document } from '../db/schema';
import { paperAllows, paperIsStill, placeIsStillOf } from '../gate/visible';

/** What each act needs, and whether a lock or a closed place is in its way. */
const needs: Readonly<Record<ActOnSeveral, { capability: Capability; moving: boolean }>> = {
  move: { capability: 'manage', moving: true },
  change: { capability: 'amend', moving: true },
  dispose: { capability: 'amend', moving: true },
  lock: { capability: 'manage', moving: false },
  copy: { capability: 'take', moving: false },
};

/** Which of some papers an act can be done with, and how many not, by reason. */
export const actablePapers = asks('papers.actable', async (actor, { documentIds, act }): Promise<Actable> => {
  const ids = [...new Set(documentIds)];
  const { capability, moving } = needs[act];
  const rows = await db()
    .select({
      id: document.id,
      allowed: sql<boolean>`${paperAllows(actor, capability)}`,
      closed: moving ? sql<boolean>`${placeIsStillOf('add')}` : sql<boolean>`false`,
      locked: moving ? sql<boolean>`${paperIsStill('amend')}` : sql<boolean>`false`,
    })
    .from(document)
    .where(sql`${idIn(document.id, ids)} and ${paperAllows(actor, 'see')}`);
  const may = new Set(rows.flatMap(({ id, allowed, closed, locked }) => (allowed && !closed && !locked ? [id] : [])));
  return {
    may: ids.filter((id) => may.has(id)),
    not: {
      notAllowed: rows.filter(({ allowed }) => !allowed).length,
      closed: rows.filter(({ allowed, closed }) => allowed && closed).length,
      locked: rows.filter(({ allowed, closed, locked }) => allowed && locked && !closed).length,
      gone: ids.length - rows.length,
    },
  };
});
