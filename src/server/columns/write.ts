import { eq, sql } from 'drizzle-orm';
import type { Value } from '@/core/columns/model';
import type { Actor } from '../gate/actor';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { document, place, valueBatch, valueChange } from '../db/schema';

/** A change to one column of one paper's own values: before and after; null is no value. */
export interface OwnChange {
  readonly documentId: string;
  readonly columnId: string;
  readonly before: Value | null;
  readonly after: Value | null;
}

/** Writes own and shown values of any number of papers in one statement. */
export async function writeOwn(tx: Tx, actor: Actor, changes: readonly OwnChange[]): Promise<void> {
  if (changes.length === 0) return;
  const patches = new Map<string, Record<string, Value | null>>();
  for (const { documentId, columnId, after } of changes) {
    const patch = patches.get(documentId) ?? {};
    patch[columnId] = after;
    patches.set(documentId, patch);
  }
  // Values are never objects, so stripping nulls removes just what the patch clears.
  await tx.execute(sql`
    update ${document}
    set own_values = jsonb_strip_nulls(${document.ownValues} || patch.own),
        shown_values = jsonb_strip_nulls(${document.ownValues} || patch.own) || ${place.fixedValues},
        changed_by = ${actor.personId}, changed_at = ${now()}, revision = ${document.revision} + 1
    from unnest(${sql.param([...patches.keys()])}::uuid[], ${sql.param([...patches.values()].map((patch) => JSON.stringify(patch)))}::jsonb[]) as patch (id, own),
         ${place}
    where ${document.id} = patch.id and ${place.id} = ${document.homeId}`);
}

/**
 * Stores the changes of an act for undoing. Returns a function that links them to the journal entry: the changes are
 * written before the journal is locked, and only their batch after it.
 */
export async function keepChanges(tx: Tx, changes: readonly OwnChange[]): Promise<(entryId: number) => Promise<void>> {
  if (changes.length === 0) return () => Promise.resolve();
  const batchId = crypto.randomUUID();
  const json = (value: Value | null) => (value === null ? null : JSON.stringify(value));
  await tx.execute(sql`
    insert into ${valueChange} (batch_id, document_id, column_id, before, after)
    select ${batchId}::uuid, * from unnest(
      ${sql.param(changes.map((change) => change.documentId))}::uuid[],
      ${sql.param(changes.map((change) => change.columnId))}::uuid[],
      ${sql.param(changes.map((change) => json(change.before)))}::jsonb[],
      ${sql.param(changes.map((change) => json(change.after)))}::jsonb[])`);
  return async (entryId) => void (await tx.insert(valueBatch).values({ id: batchId, entryId }));
}

/** The changes of values made by an entry's act; empty if it made none. */
export async function changesOf(tx: Tx, entryId: number) {
  const rows = await tx
    .select()
    .from(valueChange)
    .innerJoin(valueBatch, eq(valueBatch.id, valueChange.batchId))
    .where(eq(valueBatch.entryId, entryId));
  return rows.map((row) => row.value_change);
}
