import { and, eq, sql } from 'drizzle-orm';
import { has, noCapabilities, type Capability, type CapabilitySet } from '@/core/access/capability';
import { openingLets } from '@/core/access/resolve';
import { moving, type Standstill } from '@/core/standstill/standstill';
import { refuse } from '@/core/errors/refusal';
import type { Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { plannedOnce } from '../db/plannedOnce';
import { document, place, scopeEntry } from '../db/schema';
import { isActing } from '../db/transaction';
import { everywhere, leftOf, type Actor } from './actor';
import { waysInto } from '../scopes/scopes';
import { paperAllows, placeAllows } from './visible';

/** The caller's capabilities in a scope. */
export async function capabilitiesIn(reader: Reader, actor: Actor, scopeId: string | null): Promise<CapabilitySet> {
  const always = everywhere(actor);
  if (always !== noCapabilities) return always;
  if (scopeId === null) return noCapabilities;
  if (actor.seenBy) return actor.seenBy.scopes.get(scopeId) ?? noCapabilities;
  const [entry] = await reader
    .select({ capabilities: scopeEntry.capabilities })
    .from(scopeEntry)
    .where(and(eq(scopeEntry.scopeId, scopeId), eq(scopeEntry.personId, actor.personId), plannedOnce));
  return leftOf(actor, entry?.capabilities ?? noCapabilities);
}

/** The caller's capabilities for a paper: by its own scope, or by its home and by openings. */
export async function capabilitiesOn(reader: Reader, actor: Actor, documentId: string): Promise<CapabilitySet> {
  const always = everywhere(actor);
  if (always !== noCapabilities) return always;
  const { home, openings } = await waysInto(reader, documentId);
  const opened = await Promise.all(openings.map((each) => capabilitiesIn(reader, actor, each)));
  return opened.reduce((set, each) => set | (each & openingLets), await capabilitiesIn(reader, actor, home));
}

const placeColumns = {
  id: place.id,
  parentId: place.parentId,
  kind: place.kind,
  name: place.name,
  reference: place.reference,
  referencePattern: place.referencePattern,
  filingYear: place.filingYear,
  position: place.position,
  closed: place.closed,
  locked: place.locked,
  plannedKey: place.plannedKey,
  seenIn: place.seenIn,
  follows: place.follows,
  scopeId: place.scopeId,
  lineage: place.lineage,
  revision: place.revision,
  accessRevision: place.accessRevision,
};

/**
 * Loads a place for a capability. Refuses it as not found if the caller may not see it, else as not allowed. In a closed
 * place only access can be changed.
 */
export async function placeFor(
  reader: Reader,
  actor: Actor,
  placeId: string,
  capability: Capability,
  evenClosed: 'evenClosed' | null = null,
) {
  const [row] = await reader
    .select({ ...placeColumns, still: stillAbove })
    .from(place)
    .where(and(eq(place.id, placeId), placeAllows(actor, 'see'), plannedOnce));
  if (!row) refuse('not-found');
  const { still, ...found } = row;
  const held = await capabilitiesIn(reader, actor, found.scopeId);
  if (!has(held, capability)) refuse('not-allowed');
  if (changes(capability) && !evenClosed) refuseIfStill(still, capability);
  return { ...found, held };
}

/**
 * Whether the place of a query is locked or closed, by itself or by one above it. The outer table is written out: a column
 * in a select list would be named without it, and mean the inner one.
 */
const stillAbove = sql<Standstill>`(
  select json_build_object('closed', coalesce(bool_or(above.closed), false), 'locked', coalesce(bool_or(above.locked), false))
  from place as above where above.id = any(place.lineage))`;

function refuseIfStill({ closed, locked }: Standstill, capability: Capability): void {
  if (closed) refuse('closed-place');
  if (locked && capability !== 'add') refuse('locked');
}

const changes = (capability: Capability): boolean => capability !== 'see' && capability !== 'take';

/** Refuses if a place, or one above it, is closed, or is locked against this capability. */
export async function refuseStill(reader: Reader, lineage: readonly string[], capability: Capability): Promise<void> {
  refuseIfStill(await standstillOf(reader, lineage), capability);
}

/** Whether a place is locked or closed, by itself or by one above it. */
export async function standstillOf(reader: Reader, lineage: readonly string[]): Promise<Standstill> {
  const [found] = await reader
    .select({
      closed: sql<boolean>`coalesce(bool_or(${place.closed}), false)`,
      locked: sql<boolean>`coalesce(bool_or(${place.locked}), false)`,
    })
    .from(place)
    .where(and(idIn(place.id, lineage), plannedOnce));
  return found ?? moving;
}

/** Loads papers for a capability; refuses all of them if one is not available for it. */
export async function papersFor(
  reader: Reader,
  actor: Actor,
  ids: readonly string[],
  capability: Capability,
  evenClosed: 'evenClosed' | null = null,
) {
  const unique = [...new Set(ids)];
  const seen = await held(reader, actor, unique, capability);
  // A paper that was moved at the same moment is missed by a query that waited for its lock, and found by the next.
  const papers = seen.length < unique.length ? await held(reader, actor, unique, capability) : seen;
  if (papers.length < unique.length) refuse('not-found');
  if (!papers.every((each) => each.allowed)) refuse('not-allowed');
  const places = [...new Set(papers.flatMap((each) => each.lineage))];
  if (changes(capability) && !evenClosed) {
    await refuseStill(reader, places, capability);
    if (papers.some((each) => each.locked)) refuse('locked');
  }
  return papers;
}

/** The papers among these that the caller may see, and whether they have the capability for each. Locks the rows within an act. */
async function held(reader: Reader, actor: Actor, ids: readonly string[], capability: Capability) {
  const query = reader
    .select({
      id: document.id,
      homeId: document.homeId,
      title: document.title,
      filedBy: document.filedBy,
      revision: document.revision,
      versionId: document.versionId,
      follows: document.follows,
      accessRevision: document.accessRevision,
      sizeBytes: document.sizeBytes,
      ownValues: document.ownValues,
      shownValues: document.shownValues,
      fixedValues: place.fixedValues,
      lineage: place.lineage,
      locked: document.locked,
      allowed: sql<boolean>`${paperAllows(actor, capability)}`,
    })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(idIn(document.id, ids), paperAllows(actor, 'see')))
    .orderBy(document.id);
  return isActing() ? query.for('update', { of: document }) : query;
}
