import { sql } from 'drizzle-orm';
import { orRefuse } from '@/core/errors/refusal';
import type { FoundPaper } from '@/core/search/contract';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { place } from '../db/schema';
import { papersInOrder } from '../documents/ledger';
import { askTally } from '../tally/host';
import { questioner } from '../tally/questioner';
import { whyOf } from './why';

/** So many of the best are told while someone types. */
const few = 4;
/** Of fewer letters there is too much. */
const fewestLetters = 3;

/** The best few papers by what is known of them, while someone types: the last word may be a beginning. */
export const findInside = asks('search.inside', async (actor, { words }): Promise<readonly FoundPaper[]> => {
  const typed = words.trim();
  if (typed.length < fewestLetters) return [];
  const [root] = await db()
    .select({ id: place.id })
    .from(place)
    .where(sql`${place.kind} = 'library'`);
  if (!root) return [];
  const find = /\p{L}$/u.test(typed) ? `${typed}*` : typed;
  const told = await askTally(
    'view',
    {
      placeId: root.id,
      below: true,
      conditions: [{ of: 'find', find, among: 'everything' }],
      groupings: [],
      sorts: [],
      counts: [],
      measures: [],
      start: 0,
      limit: few,
    },
    questioner(actor),
  );
  if (told === null) return [];
  const { rows, names } = await papersInOrder(actor, orRefuse(told).ids);
  const why = new Map((await whyOf(actor, rows, names, find, true)).map((each) => [each.documentId, each]));
  return rows.flatMap((row) => {
    const reason = why.get(row.id);
    return reason ? [{ ...reason, title: row.title, stamp: row.stamp }] : [];
  });
});
