import { and, arrayOverlaps, eq, inArray, ne, sql } from 'drizzle-orm';
import { domainNames, ranked } from '@/core/intake/evidence';
import { namesWords } from '@/core/text/namesWords';
import type { Candidate, Evidence } from '@/core/intake/model';
import { bareIdentifier } from '@/core/stated/identifiers';
import { searchKey } from '@/core/text/fold';
import { db } from '../db/client';
import { arrival, place } from '../db/schema';
import { likePapers } from './learnt';

/** What is read of an arrival. */
export interface ReadArrival {
  readonly id: string;
  readonly sender: string;
  /** The addresses to which it was sent. */
  readonly sentTo: readonly string[];
  /** The reference on the separator sheet before it; null: there was none. */
  readonly sheet: string | null;
  /** References that are named in it, as they stand there. */
  readonly references: readonly string[];
  /** Bank accounts and tax numbers that it names. */
  readonly identifiers: readonly string[];
  /** Its words and those of what is attached. */
  readonly text: string;
  /** What it and what is attached are, by their SHA-256. */
  readonly contents: readonly string[];
}

/** As the index has it. */
const senderDomain = sql`split_part(${arrival.senderAddress}, '@', 2)`;

/** Shorter names of dossiers stand in too many texts to say anything. */
const shortestName = 5;

/** The dossiers that something speaks for, the likeliest first. Closed ones take nothing. */
export async function candidatesFor(read: ReadArrival): Promise<Candidate[]> {
  const dossiers = await db()
    .select({ id: place.id, name: place.name, reference: place.reference, details: place.details })
    .from(place)
    .where(and(eq(place.kind, 'dossier'), eq(place.closed, false)));
  const [senders, domains, numbers, like] = await Promise.all([
    filedFrom(read),
    filedFromDomain(read),
    filedWith(read),
    likePapers(read.text, read.contents),
  ]);
  const text = searchKey(read.text);
  const lines = new Set(read.text.split('\n').map(searchKey));
  const sentTo = new Map(read.sentTo.map((address) => [nameBefore(address), address]));
  const references = new Set(read.references.map((each) => each.toUpperCase()));
  const sender = read.sender.toLowerCase();
  return ranked(
    dossiers.map(({ id, name, reference, details }) => {
      const evidence: Evidence[] = [];
      const add = (each: Evidence) => evidence.push(each);
      const key = reference?.toLowerCase() ?? '';
      if (key !== '' && read.sheet?.toLowerCase() === key) add({ kind: 'sheet', about: reference ?? '' });
      if (key !== '' && sentTo.has(key)) add({ kind: 'address', about: key });
      if (sender !== '' && standsIn(details, sender)) add({ kind: 'detail', about: sender });
      const named = read.identifiers.find((each) => hasIdentifier(details, each));
      if (named !== undefined) add({ kind: 'detail', about: named });
      const number = numbers.get(id);
      if (number) add({ kind: 'number', ...number });
      const times = senders.get(id) ?? 0;
      if (times > 0) add({ kind: 'sender', about: sender, times });
      if (reference && references.has(reference.toUpperCase())) add({ kind: 'reference', about: reference });
      const at = domains.get(id);
      if (at && times === 0 && (at.addresses > 1 || domainNames(at.about, name)))
        add({ kind: 'domain', about: at.about, times: at.times });
      const called = name.length < shortestName ? '' : searchKey(name);
      if (lines.has(called) && called !== '') add({ kind: 'name', about: name, alone: true });
      else if (namesWords(text, called)) add({ kind: 'name', about: name });
      if (like?.dossierId === id) add({ kind: 'words', about: like.about, times: like.times });
      return { dossierId: id, evidence };
    }),
  );
}

/** What stands before the sign of an address, in lower case; without what follows a plus (RFC 5233). */
const nameBefore = (address: string): string => (address.split('@')[0] ?? '').split('+')[0]?.toLowerCase() ?? '';

const standsIn = (details: Readonly<Record<string, unknown>>, sender: string): boolean =>
  Object.values(details).some((value) => typeof value === 'string' && value.toLowerCase() === sender);

/** By dossier: how often what came from the same sender was filed there. */
async function filedFrom({ id, sender }: ReadArrival): Promise<ReadonlyMap<string, number>> {
  if (sender === '') return new Map();
  const rows = await db()
    .select({ dossierId: arrival.dossierId, times: sql<number>`count(*)::int` })
    .from(arrival)
    .where(and(eq(arrival.senderAddress, sender.toLowerCase()), inArray(arrival.state, ['filed']), ne(arrival.id, id)))
    .groupBy(arrival.dossierId);
  return new Map(rows.flatMap(({ dossierId, times }) => (dossierId === null ? [] : [[dossierId, times]])));
}

/**
 * A domain says whose an arrival is only where what came from it went to one dossier, and where it is called as that is or several wrote
 * from it: many write from the domain of a provider.
 */
const leastOfDomain = 0.9;

/** By dossier: the domain of a sender, and how often what came from other addresses there was filed in it. */
async function filedFromDomain({ id, sender }: ReadArrival) {
  const found = new Map<string, { readonly about: string; readonly times: number; readonly addresses: number }>();
  const about = sender.toLowerCase().split('@')[1] ?? '';
  if (about === '') return found;
  const rows = await db()
    .select({
      dossierId: arrival.dossierId,
      times: sql<number>`count(*)::int`,
      addresses: sql<number>`count(distinct ${arrival.senderAddress})::int`,
    })
    .from(arrival)
    .where(and(eq(senderDomain, about), eq(arrival.state, 'filed'), ne(arrival.id, id)))
    .groupBy(arrival.dossierId);
  const all = rows.reduce((sum, { times }) => sum + times, 0);
  for (const { dossierId, times, addresses } of rows)
    if (dossierId !== null && times >= leastOfDomain * all) found.set(dossierId, { about, times, addresses });
  return found;
}

const hasIdentifier = (details: Readonly<Record<string, unknown>>, identifier: string): boolean =>
  Object.values(details).some((value) => typeof value === 'string' && bareIdentifier(value) === identifier);

/** A number says whose a paper is only where it is one dossier’s: ours stands on every bill. In parts of all that was filed with it. */
const leastShare = 0.8;

/** By dossier: a number that is its own, and how often what names it was filed there. */
async function filedWith({ id, identifiers }: ReadArrival) {
  const numbers = new Map<string, { readonly about: string; readonly times: number }>();
  if (identifiers.length === 0) return numbers;
  const rows = await db()
    .select({ dossierId: arrival.dossierId, identifiers: arrival.identifiers, times: sql<number>`count(*)::int` })
    .from(arrival)
    .where(and(arrayOverlaps(arrival.identifiers, [...identifiers]), eq(arrival.state, 'filed'), ne(arrival.id, id)))
    .groupBy(arrival.dossierId, arrival.identifiers);
  for (const about of identifiers) {
    const filed = new Map<string, number>();
    for (const each of rows)
      if (each.dossierId !== null && each.identifiers.includes(about))
        filed.set(each.dossierId, (filed.get(each.dossierId) ?? 0) + each.times);
    const all = [...filed.values()].reduce((sum, times) => sum + times, 0);
    for (const [dossierId, times] of filed)
      if (times >= leastShare * all && times > (numbers.get(dossierId)?.times ?? 0))
        numbers.set(dossierId, { about, times });
  }
  return numbers;
}
