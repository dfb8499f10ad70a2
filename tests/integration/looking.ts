/** A library in which words are looked for: a place that a reader may open, and one that they may not. */
import { eq } from 'drizzle-orm';
import type { Among } from '@/core/search/among';
import { fileBuffer } from '@/demo/file';
import { db } from '@/server/db/client';
import { place } from '@/server/db/schema';
import type { Actor } from '@/server/gate/actor';
import { whyFound } from '@/server/search/why';
import { stopTally } from '@/server/tally/host';
import { openView } from '@/server/views/open';
import { dropLibrary, freshLibrary, furnished, newcomer, open, plainQuestion } from '../library';
import { readPaper } from '../reading';

export let keeper: Actor;
export let reader: Actor;
export let openId: string;
export let openSeriesId: string;
export let closedId: string;
export let rootId: string;

/** Founds the library of a test file. */
export async function beginLooking(): Promise<void> {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  const [first, second] = [await furnished(keeper, 'Open'), await furnished(keeper, 'Closed')];
  openId = first.year.id;
  openSeriesId = first.series.id;
  closedId = second.year.id;
  const [root] = await db().select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  rootId = root?.id ?? '';
  await open(keeper, first.series.id, reader, 'reader');
}

export async function endLooking(): Promise<void> {
  await stopTally();
  await dropLibrary();
}

/** Files a text and has it read. */
export async function filed(placeId: string, fileName: string, text: string): Promise<string> {
  const id = await fileBuffer(keeper, placeId, fileName, Buffer.from(text));
  await readPaper(id);
  return id;
}

/** What words find: the page of the view that they are a condition of. */
export const looked = (actor: Actor, find: string, placeId = rootId, among: Among = 'everything') =>
  openView(actor, { ...plainQuestion, placeId, below: true, conditions: [{ of: 'find', find, among }] });

export const titles = async (
  actor: Actor,
  words: string,
  placeId = rootId,
  among: Among = 'everything',
): Promise<string[]> => (await looked(actor, words, placeId, among)).rows.map(({ title }) => title);

/** Why the first paper was found. */
export async function why(actor: Actor, words: string) {
  const { rows } = await looked(actor, words);
  const documentIds = rows.slice(0, 1).map(({ id }) => id);
  return (await whyFound(actor, { documentIds, words, among: 'everything' }))[0];
}
