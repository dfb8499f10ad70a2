import { inArray, sql } from 'drizzle-orm';
import { db } from '../../db/client';
import { arrival, wayIn } from '../../db/schema';
import type { Reached } from '../../db/schema/intake';

/** What one look at a way in came to. */
export interface Look {
  /** How many arrivals are new. */
  readonly taken: number;
  readonly reached: Reached | null;
  /** What was left, in words; null: nothing. */
  readonly left: string | null;
  /** Whether more is known to wait than one look takes. */
  readonly hasMore: boolean;
}

/** So much is taken at one look; the next follows at once. */
export const mostAtOnce = 200;

/** A way in of one kind of settings. */
export type WayIn<Kind = string> = Omit<typeof wayIn.$inferSelect, 'settings'> & {
  readonly settings: Extract<(typeof wayIn.$inferSelect)['settings'], { readonly kind: Kind }>;
};

/** Why nothing could be fetched, in words for a keeper who set it up. */
export class NotFetched extends Error {
  override readonly name = 'NotFetched';
}

/** What has a way in looked at once more, even if a look is under way that began before. */
export const oneMoreLook = sql`${wayIn.looksWanted} + 1`;

/** Those of some origins from which nothing was kept yet. */
export async function notKept(origins: readonly string[]): Promise<ReadonlySet<string>> {
  const left = new Set(origins);
  for (let at = 0; at < origins.length; at += 1000) {
    const rows = await db()
      .select({ origin: arrival.origin })
      .from(arrival)
      .where(inArray(arrival.origin, origins.slice(at, at + 1000)));
    for (const { origin } of rows) if (origin !== null) left.delete(origin);
  }
  return left;
}

/** What was left of some things, in words: the first few by name; null: none. */
export const leftInWords = (names: readonly string[], why: string): string | null =>
  names.length === 0
    ? null
    : `${names.slice(0, 3).join(', ')}${names.length > 3 ? ` and ${names.length - 3} more` : ''} ${why}`;
