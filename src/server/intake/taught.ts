import { and, desc, eq } from 'drizzle-orm';
import { filedAs } from '@/core/intake/fields';
import { singleKinds, type SingleKind, type Stated, type Taught } from '@/core/stated/model';
import { isSame, taughtBy } from '@/core/stated/taught';
import { allColumns } from '../columns/read';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { arrival, attachment, document, place, version } from '../db/schema';
import { openAsDossier } from './alongside';
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
  const [columns, papers] = await Promise.all([allColumns(db()), papersOf([...open])]);
  const taught: Taught[] = [];
  const settled = new Set<SingleKind>();
  for (const each of last)
    for (const paper of papers.filter(({ id }) => each.documentIds.includes(id))) {
      const there = columns.filter(({ retired, placeId }) => !retired && paper.lineage.includes(placeId));
      const stated = await statedOf(each, paper.sha256);
      for (const kind of singleKinds) {
        const value = settled.has(kind) ? null : filedAs(kind, there, paper.values);
        if (value === null) continue;
        settled.add(kind);
        if (isKnown(stated, kind, value)) continue;
        const found = taughtBy(await pagesOf(paper), kind, value);
        if (found) taught.push(found);
      }
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

const papersOf = (ids: readonly string[]) =>
  db()
    .select({
      id: document.id,
      values: document.shownValues,
      lineage: place.lineage,
      sha256: version.sha256,
      mediaType: version.mediaType,
    })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .innerJoin(version, eq(version.id, document.versionId))
    .where(idIn(document.id, ids));

/** What was read of some content when it arrived. */
async function statedOf(
  { sha256, proposal }: typeof arrival.$inferSelect,
  content: string,
): Promise<readonly Stated[]> {
  const numbers = await db()
    .select({ number: attachment.number })
    .from(attachment)
    .where(and(eq(attachment.mailSha256, sha256), eq(attachment.sha256, content)));
  const parts = new Set<number | null>(content === sha256 ? [null] : numbers.map(({ number }) => number));
  return (proposal?.parts ?? []).flatMap(({ attachment: number, stated = [] }) => (parts.has(number) ? stated : []));
}
