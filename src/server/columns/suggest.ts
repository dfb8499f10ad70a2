import { seriesIn } from '@/core/tree/lineage';
import { and, eq, sql } from 'drizzle-orm';
import { columnsAlong } from '@/core/columns/given';
import { nameShape, suggestValues } from '@/core/columns/suggest';
import { refuse } from '@/core/errors/refusal';
import { asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { paperAllows, paperMayBeAmended, placeIsKnown } from '../gate/visible';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { idIn } from '../db/idIn';
import { document, place } from '../db/schema';
import { allColumns, allLists, lexiconsOf, namesFor } from './read';

/** At most this many papers with similar names are learned from, the newest first. */
const learnedFrom = 2000;

/** Proposes values for papers from their names and places. Writes nothing. */
export const suggest = asks('values.suggest', async (actor, input) => {
  const papers = await db()
    .select({ id: document.id, title: document.title, shown: document.shownValues, lineage: place.lineage })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(idIn(document.id, input.documentIds), paperMayBeAmended(actor)));
  if (papers.length === 0) refuse('not-found');
  const [columns, lists] = await Promise.all([allColumns(db()), allLists(db())]);
  const lexicons = lexiconsOf(lists);
  const dossiers = await db()
    .select({ id: place.id, name: place.name, reference: place.reference })
    .from(place)
    .where(and(eq(place.kind, 'dossier'), sql`${place.reference} is not null`, placeIsKnown(actor)));
  const byReference = new Map(dossiers.map((each) => [each.reference?.toUpperCase() ?? '', each]));
  const described = new Map<string, Awaited<ReturnType<typeof likeNamed>>>();
  const suggested = [];
  for (const paper of papers) {
    const shape = nameShape(paper.title);
    const seriesId = seriesIn(paper.lineage) ?? '';
    const key = `${seriesId} ${shape}`;
    if (!described.has(key)) described.set(key, await likeNamed(actor, seriesId, shape));
    const suggestions = suggestValues(paper.title, paper.shown, {
      columns: columnsAlong(columns, paper.lineage),
      terms: (listId) => lexicons.get(listId),
      dossierByReference: (reference) => byReference.get(reference),
      described: (described.get(key) ?? []).filter((each) => each.id !== paper.id),
    });
    suggested.push({ documentId: paper.id, title: paper.title, suggestions });
  }
  const values = suggested.flatMap((paper) => paper.suggestions.map((each) => ({ [each.columnId]: each.value })));
  return { papers: suggested, names: await namesFor(db(), actor, columns, values) };
});

/** Papers of a series whose titles contain the first word of a name's shape; core decides which names are alike. */
async function likeNamed(actor: Actor, seriesId: string, shape: string) {
  const [first] = shape.split(' ');
  if (!first) return [];
  return db()
    .select({ id: document.id, title: document.title, shown: document.shownValues })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        paperAllows(actor, 'see'),
        sql`${place.lineage} @> array[${seriesId}::uuid]`,
        sql`${document.searchKey} like ${`%${escapeLike(first)}%`}`,
        sql`${document.shownValues} <> '{}'::jsonb`,
      ),
    )
    .orderBy(sql`${document.filedAt} desc`)
    .limit(learnedFrom);
}
