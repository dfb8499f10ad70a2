import { and, desc, eq, sql } from 'drizzle-orm';
import { asks } from '../acts/operation';
import { allColumns } from '../columns/read';
import { db } from '../db/client';
import { document, person, place, readingPosition } from '../db/schema';
import { colleagueIsKnown, ownOf, paperAllows } from '../gate/visible';
import { standName } from '../known/standing';

const mostOpened = 12;

/** The papers that the caller had open lately and that are still open to them, the latest first. */
export const openedLately = asks('desk.lately', async (actor) => {
  const personId = ownOf(actor);
  if (personId === null) return [];
  const rows = await db()
    .select({
      id: document.id,
      title: document.title,
      stamp: document.stamp,
      where: standName(actor),
      page: readingPosition.page,
      at: readingPosition.at,
    })
    .from(readingPosition)
    .innerJoin(document, eq(document.id, readingPosition.documentId))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(eq(readingPosition.personId, personId), paperAllows(actor, 'see')))
    .orderBy(desc(readingPosition.at))
    .limit(mostOpened);
  return rows.map(({ at, ...row }) => ({ ...row, at: at.toISOString() }));
});

/** Values that are needed and missing in what the caller filed. */
export const lackingOf = asks('desk.lacking', async (actor) => {
  const needed = (await allColumns(db())).filter((column) => column.required && !column.retired);
  const counts = await Promise.all(
    needed.map(async (column) => {
      const [found] = await db()
        .select({ papers: sql<number>`count(*)::int` })
        .from(document)
        .innerJoin(place, eq(place.id, document.homeId))
        .where(
          and(
            eq(document.filedBy, actor.personId),
            paperAllows(actor, 'amend'),
            sql`${place.lineage} @> array[${column.placeId}::uuid]`,
            sql`not ${document.shownValues} ? ${column.id}`,
          ),
        );
      return { columnId: column.id, name: column.name, papers: found?.papers ?? 0 };
    }),
  );
  return counts.filter(({ papers }) => papers > 0);
});

/** Whom to ask for access: the keepers whom the caller may know of. */
export const keepersToAsk = asks('desk.keepers', (actor) =>
  db()
    .select({ name: person.name, email: person.email })
    .from(person)
    .where(and(eq(person.keeper, true), eq(person.active, true), colleagueIsKnown(actor)))
    .orderBy(person.name)
    .limit(5),
);
