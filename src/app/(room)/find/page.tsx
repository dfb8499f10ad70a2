import { z } from 'zod';
import { pageActor } from '@/app/pageActor';
import { FindRoom } from '@/ui/search/FindRoom';

export const metadata = { title: 'Find' };

const asked = z.object({ words: z.string().max(2000).catch(''), in: z.uuid().nullish().catch(null) });

/** What was found, and why. */
export default async function FindPage({ searchParams }: { readonly searchParams: Promise<Record<string, unknown>> }) {
  await pageActor('/find');
  const { words, in: placeId } = asked.parse(await searchParams);
  return <FindRoom words={words} placeId={placeId ?? null} />;
}
