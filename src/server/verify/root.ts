import { eq } from 'drizzle-orm';
import type { Reader } from '../db/client';
import { place } from '../db/schema';

/** The id of the library's root place; empty before founding. */
export async function rootOf(reader: Reader): Promise<string> {
  const [root] = await reader.select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  return root?.id ?? '';
}
