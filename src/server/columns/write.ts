import { sql } from 'drizzle-orm';
import type { Value } from '@/core/columns/model';
import type { Actor } from '../access/actor';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { document, place, valueChange } from '../db/schema';

/** One column of one paper's own values, as it was and as it is to be; null is nothing. */
export interface OwnChange {
  readonly documentId: string;
  readonly columnId: string;
  readonly before: Value | null;
  readonly after: Value | null;
}

/** Writes own values, and what papers show with them, in one statement however many papers there are. */
export async function writeOwn(tx: Tx, actor: Actor, changes: readonly OwnChange[]): Promise<void> {
  if (changes.length === 0) return;
  const patches = new Map<string, Record<string, Value | null>>();
  for (const { documentId, columnId, after } of changes) {
    const patch = patches.get(documentId) ?? {};
    patch[columnId] = after;
    patches.set(documentId, patch);
  }
  // Values are never objects, so that stripping nulls takes away just what the patch clears.
  await tx.execute(sql`
    update ${document}
    set own_values = jsonb_strip_nulls(${document.ownValues} || patch.own),
        shown_values = jsonb_strip_nulls(${document.ownValues} || patch.own) || ${place.fixedValues},
        changed_by = ${actor.personId}, changed_at = ${now()}, revision = ${document.revision} + 1
    from unnest(${sql.param([...patches.keys()])}::uuid[], ${sql.param([...patches.values()].map((patch) => JSON.stringify(patch)))}::jsonb[]) as patch (id, own),
         ${place}
    where ${document.id} = patch.id and ${place.id} = ${document.homeId}`);
}

/** Keeps what an act did, so that it can be undone in one step. */
export async function keepChanges(tx: Tx, entryId: number, changes: readonly OwnChange[]): Promise<void> {
  if (changes.length === 0) return;
  const json = (value: Value | null) => (value === null ? null : JSON.stringify(value));
  await tx.execute(sql`
    insert into ${valueChange} (entry_id, document_id, column_id, before, after)
    select ${entryId}, * from unnest(
      ${sql.param(changes.map((change) => change.documentId))}::uuid[],
      ${sql.param(changes.map((change) => change.columnId))}::uuid[],
      ${sql.param(changes.map((change) => json(change.before)))}::jsonb[],
      ${sql.param(changes.map((change) => json(change.after)))}::jsonb[])`);
}
