import { and, eq, sql } from 'drizzle-orm';
import type { FilingKind, PaperFiling } from '@/core/documents/model';
import type { ReadInputOf } from '@/core/contract';
import { mostPairs } from '@/core/documents/contract';
import { refuse } from '@/core/errors/refusal';
import type { NamedPlace } from '@/core/journal/events';
import { counted } from '@/core/text/measure';
import { mayHoldPapers } from '@/core/tree/placeKind';
import { pathsOf } from '../known/names';
import { acts, asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { impactOf } from '../access/forecast';
import { capabilitiesIn, papersFor, placeFor, refuseStill } from '../gate/held';
import { recomputePapers } from '../scopes/scopes';
import { partOfPapers } from '../scopes/parts';
import { placeAllows, paperAllows } from '../gate/visible';
import { has } from '@/core/access/capability';
import { now } from '../base/clock';
import type { Reader, Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, filing, place } from '../db/schema';
import { snapshot } from '../db/transaction';

/**
 * Lists papers in more places. A pointer changes nobody's access and needs `see`; an opening gives access to the place's
 * readers and needs `manage` at the papers' homes. Both need `add` in each place.
 */
export const crossFile = acts('papers.crossFile', [], async (tx, actor, input) => {
  const { targets, papers } = await fileable(tx, actor, input);
  const there = new Map(
    (
      await tx
        .select()
        .from(filing)
        .where(and(idIn(filing.placeId, idsOf(targets)), idIn(filing.documentId, idsOf(papers))))
    ).map((row) => [`${row.documentId} ${row.placeId}`, row.kind]),
  );
  const kindThere = (documentId: string, placeId: string) => there.get(`${documentId} ${placeId}`);
  const fresh = targets.flatMap((target) =>
    papers
      .filter(({ id, homeId }) => homeId !== target.id && kindThere(id, target.id) !== input.kind)
      .map(({ id, title }) => ({ documentId: id, placeId: target.id, title })),
  );
  // Turning an opening into a pointer needs the same right as making it.
  const shutting = fresh.filter(({ documentId, placeId }) => kindThere(documentId, placeId) === 'opening');
  if (shutting.length > 0)
    await papersFor(
      tx,
      actor,
      shutting.map(({ documentId }) => documentId),
      'manage',
      'evenClosed',
    );
  if (fresh.length === 0) return { entry: null, result: { filed: [] } };
  const at = now();
  await tx
    .insert(filing)
    .values(
      fresh.map(({ documentId, placeId }) => ({
        documentId,
        placeId,
        kind: input.kind,
        madeBy: actor.personId,
        madeAt: at,
      })),
    )
    .onConflictDoUpdate({ target: [filing.documentId, filing.placeId], set: { kind: input.kind } });
  const filed = new Set(fresh.map(({ documentId }) => documentId));
  await recomputeOwn(tx, [...filed]);
  const count = papers.filter(({ id }) => filed.has(id));
  return {
    entry: {
      act: 'papers.crossFiled',
      subjects: [...filed, ...new Set(fresh.map(({ placeId }) => placeId))],
      detail: { count, to: severalPlaces(targets), how: howWords[input.kind] },
    },
    result: { filed: fresh.map(({ documentId, placeId }) => ({ documentId, placeId })) },
  };
});

/** Places as the journal names them: one by its name, several by their number, as a reader may know only some of them. */
export const severalPlaces = (places: readonly { readonly id: string; readonly name: string }[]): NamedPlace =>
  places.length === 1 && places[0] ? places[0] : { id: null, name: counted(places.length, 'place') };

const howWords: Record<FilingKind, string> = {
  pointer: 'for those who may see it anyway',
  opening: 'and let its readers in',
};
const idsOf = (papers: readonly { readonly id: string }[]): string[] => papers.map(({ id }) => id);

async function fileable(tx: Tx, actor: Actor, { documentIds, toIds, kind }: ReadInputOf<'papers.crossFile'>) {
  const targets = await receivingPlaces(tx, actor, toIds);
  requirePairs(documentIds, toIds);
  // Access can be changed even for locked papers and in closed places.
  const capability = kind === 'opening' ? 'manage' : 'see';
  return { targets, papers: await papersFor(tx, actor, documentIds, capability, 'evenClosed') };
}

/** Places that take papers from the caller, each once and in one order. */
export async function receivingPlaces(tx: Tx, actor: Actor, ids: readonly string[]) {
  const targets = [];
  for (const id of [...new Set(ids)].sort()) {
    const target = await placeFor(tx, actor, id, 'add');
    if (!mayHoldPapers(target.kind)) refuse('invalid', 'Papers are filed in a series or below it.');
    targets.push(target);
  }
  return targets;
}

/** Refuses what is too much for one act. */
export function requirePairs(documentIds: readonly string[], toIds: readonly string[]): void {
  if (documentIds.length * toIds.length > mostPairs)
    refuse('invalid', 'At most 5,000 papers and places together in one act: 125 papers into 40 places, for instance.');
}

/** Recomputes papers that have scopes of their own, which include what openings give. */
async function recomputeOwn(tx: Tx, ids: readonly string[]): Promise<void> {
  const own = await tx
    .select({ id: document.id })
    .from(document)
    .where(and(idIn(document.id, ids), sql`${document.scopeId} is not null`));
  await recomputePapers(tx, idsOf(own));
}

/** Who would gain access by listing papers in a place, or lose it by removing them from it. */
export const forecastFiling = asks('papers.forecastFiling', async (actor, input) => {
  return snapshot(async (tx) => {
    // Tells who has access through a place only to callers who may give or remove it.
    if (input.kind === null) await mayTakeOut(tx, actor, input.documentIds, input.placeId);
    else await placeFor(tx, actor, input.placeId, 'add');
    const [shutting] = await tx
      .select({ id: filing.id })
      .from(filing)
      .where(
        and(eq(filing.placeId, input.placeId), idIn(filing.documentId, input.documentIds), eq(filing.kind, 'opening')),
      )
      .limit(1);
    const letsOrShuts = input.kind === 'opening' || (input.kind === 'pointer' && shutting !== undefined);
    const papers = await papersFor(tx, actor, input.documentIds, letsOrShuts ? 'manage' : 'see', 'evenClosed');
    return impactOf(tx, actor, await partOfPapers(tx, idsOf(papers)), {
      kind: 'openings',
      placeId: input.placeId,
      opens: input.kind === 'opening',
    });
  });
});

/** Refuses unless the caller may amend the place, or manages the papers at home, and the place is not closed. */
async function mayTakeOut(tx: Tx, actor: Actor, documentIds: readonly string[], placeId: string) {
  const at = await placeFor(tx, actor, placeId, 'see');
  await refuseStill(tx, at.lineage, 'amend');
  if (!has(at.held, 'amend')) await papersFor(tx, actor, documentIds, 'manage');
  return at;
}

/** Removes a cross-filing of a paper. Needs `amend` in that place, or `manage` at the paper's home. */
export const leavePlace = acts('paper.leave', [], async (tx, actor, input) => {
  const [paper] = await papersFor(tx, actor, [input.documentId], 'see');
  if (!paper) refuse('not-found');
  if (paper.homeId === input.placeId)
    refuse('invalid', 'A paper does not leave its home. Move it to another place, or dispose of it.');
  const at = await mayTakeOut(tx, actor, [paper.id], input.placeId);
  const [gone] = await tx
    .delete(filing)
    .where(and(eq(filing.documentId, paper.id), eq(filing.placeId, at.id)))
    .returning();
  if (!gone) refuse('not-found');
  await recomputeOwn(tx, [paper.id]);
  const detail = { title: paper.title, from: at };
  return { entry: { act: 'paper.left', subjects: [paper.id, at.id], detail }, result: { kind: gone.kind } };
});

/** Takes papers out of places that list them, as far as they are still there. Needs what leaving each of them needs. */
export const leavePlaces = acts('papers.leave', [], async (tx, actor, { filings }) => {
  const papers = await papersFor(
    tx,
    actor,
    filings.map(({ documentId }) => documentId),
    'see',
  );
  const places = [];
  const left = new Set<string>();
  let count = 0;
  for (const placeId of [...new Set(filings.map((each) => each.placeId))].sort()) {
    const ids = filings.flatMap((each) => (each.placeId === placeId ? [each.documentId] : []));
    places.push(await mayTakeOut(tx, actor, ids, placeId));
    const gone = await tx
      .delete(filing)
      .where(and(eq(filing.placeId, placeId), idIn(filing.documentId, ids)))
      .returning({ documentId: filing.documentId });
    for (const { documentId } of gone) left.add(documentId);
    count += gone.length;
  }
  if (count === 0) return { entry: null, result: { left: 0 } };
  await recomputeOwn(tx, [...left]);
  const detail = { count: papers.filter(({ id }) => left.has(id)), from: severalPlaces(places) };
  return { entry: { act: 'papers.left', subjects: [...left, ...idsOf(places)], detail }, result: { left: count } };
});

/** The places other than its home that list a paper and that the caller may see. */
export async function filingsOf(reader: Reader, actor: Actor, documentId: string): Promise<PaperFiling[]> {
  const rows = await reader
    .select({ placeId: place.id, lineage: place.lineage, scopeId: place.scopeId, kind: filing.kind })
    .from(filing)
    .innerJoin(place, eq(place.id, filing.placeId))
    .where(and(eq(filing.documentId, documentId), placeAllows(actor, 'see')))
    .orderBy(filing.madeAt);
  const [home] = await reader
    .select({ manages: sql<boolean>`${paperAllows(actor, 'manage')}` })
    .from(document)
    .where(eq(document.id, documentId));
  const paths = await pathsOf(
    reader,
    actor,
    rows.map((row) => row.lineage),
  );
  return Promise.all(
    rows.map(async ({ placeId, scopeId, kind }, at) => ({
      placeId,
      kind,
      path: (paths[at] ?? []).map(({ id, name }) => ({ id, name })),
      mayLeave: home?.manages === true || has(await capabilitiesIn(reader, actor, scopeId), 'amend'),
    })),
  );
}
