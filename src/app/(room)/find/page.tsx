import { redirect } from 'next/navigation';
import { z } from 'zod';
import { pageActor } from '@/app/pageActor';
import { placeNamed } from '@/server/known/places';
import { findAddress } from '@/ui/search/findAddress';
import { FindRoom } from '@/ui/search/FindRoom';

export const metadata = { title: 'Find' };

const asked = z.object({ words: z.string().max(2000).nullish().catch(null), in: z.uuid().nullish().catch(null) });

/** What words find, and why. Short addresses (`?words=`) lead to the one that a view has. */
export default async function FindPage({ searchParams }: { readonly searchParams: Promise<Record<string, unknown>> }) {
  const actor = await pageActor('/find');
  const { words, in: placeId } = asked.parse(await searchParams);
  if (words) redirect(findAddress(words, placeId ?? null));
  return <FindRoom place={placeId ? await placeNamed(actor, placeId) : null} />;
}
