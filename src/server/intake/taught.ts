import { and, desc, eq } from 'drizzle-orm';
import { filedAs } from '@/core/intake/fields';
import { singleKinds, type SingleKind, type Stated, type Taught } from '@/core/stated/model';
import { isSame, taughtBy } from '@/core/stated/taught';
import { db } from '../db/client';
import { arrival } from '../db/schema';
import { openAsDossier } from './alongside';
import { papersOfFiled } from './filedPapers';
import { pagesOf } from './state';

/** So many of the arrivals that were filed last are looked at. */
const mostLooked = 5;

/**
 * Beside which words the papers of a sender state what, as those show that were filed in a dossier last. Only what was not read rightly by
 * what the library knows of itself teaches; of each kind the last paper that was filed with any. Nothing is stored for it: what is
 * corrected later, or destroyed, teaches accordingly.
 */
export async function taughtIn(dossierId: string, sender: string): Promise<readonly Taught[]> {
  const last = await db()
    .select()
    .from(arrival)
    .where(and(eq(arrival.dossierId, dossierId), eq(arrival.senderAddress, sender), eq(arrival.state, 'filed')))
    .orderBy(desc(arrival.doneAt))
    .limit(mostLooked);
  const ids = last.flatMap(({ documentIds }) => documentIds);
  const open = await openAsDossier(ids, dossierId);
  if (open.size === 0) return [];
  const papers = await papersOfFiled(last);
  const taught: Taught[] = [];
  const settled = new Set<SingleKind>();
  for (const paper of last.flatMap(({ id }) => papers.get(id) ?? []))
    for (const kind of open.has(paper.id) ? singleKinds : []) {
      const value = settled.has(kind) ? null : filedAs(kind, paper.columns, paper.values);
      if (value === null) continue;
      settled.add(kind);
      if (isKnown(paper.stated, kind, value)) continue;
      const found = taughtBy(await pagesOf(paper), kind, value);
      if (found) taught.push(found);
    }
  return taught;
}

/** Whether a value was read of a paper by words that are known without being taught, or is its data. */
const isKnown = (stated: readonly Stated[], kind: SingleKind, value: string): boolean =>
  stated.some(
    (each) =>
      each.kind === kind &&
      isSame(kind, each.value, value) &&
      (each.isData === true || (each.by !== null && each.isTaught !== true)),
  );
