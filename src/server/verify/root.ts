import { eq } from 'drizzle-orm';
import type { Reader } from '../db/client';
import { place } from '../db/schema';

/** The id of the library's own place; empty where none is founded. */
export async function rootOf(reader: Reader): Promise<string> {
  const [root] = await reader.select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  return root?.id ?? '';
}
