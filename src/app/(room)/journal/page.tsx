import { notFound } from 'next/navigation';
import { z } from 'zod';
import { orNotFound, pageActor } from '@/app/pageActor';
import { docketOf } from '@/server/documents/docket';
import { listPeople } from '@/server/people/people';
import { openPlace } from '@/server/places/open';
import { JournalPage } from '@/ui/journal/JournalPage';

export const metadata = { title: 'Journal' };

const asked = z.object({ of: z.enum(['place', 'document']), id: z.uuid() });

/** The journal of the library, for its keepers; of a place or a paper, for those who may see it. */
export default async function Journal({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const words = await searchParams;
  const actor = await pageActor('/journal');
  const people = actor.keeper ? (await listPeople(actor)).people.map(({ id, name }) => ({ id, name })) : [];
  if (words['of'] === undefined) {
    if (!actor.keeper) notFound();
    return <JournalPage about={null} name={null} people={people} />;
  }
  const about = asked.safeParse({ of: words['of'], id: words['id'] });
  if (!about.success) notFound();
  const { of, id } = about.data;
  const name =
    of === 'place'
      ? (await orNotFound(openPlace(actor, { placeId: id }))).place.name
      : (await orNotFound(docketOf(actor, { documentId: id }))).title;
  return <JournalPage about={{ subject: of, id }} name={name} people={people} />;
}
