import { refuse } from '@/core/errors/refusal';
import type { PlacedPaper } from '@/core/documents/contract';
import { papersInOrder } from '../documents/ledger';
import { contentFor } from '../documents/content';
import { papersOfSlice } from '../views/open';
import type { Visitor } from './visit';

/** The most papers of a view shown to a visitor. */
export const mostOutside = 2000;

/** The papers a visitor is shown, in order, and how many there are in all. */
export async function papersOutside({ actor, shows }: Visitor): Promise<{ papers: PlacedPaper[]; lines: number }> {
  const { ids, lines } = await idsOutside({ actor, shows });
  const { rows } = await papersInOrder(actor, ids);
  return { papers: rows, lines };
}

async function idsOutside({
  actor,
  shows,
}: Pick<Visitor, 'actor' | 'shows'>): Promise<{ ids: readonly string[]; lines: number }> {
  if (shows.kind === 'paper') return { ids: [shows.documentId], lines: 1 };
  const { name: _name, ...slice } = shows.view;
  return papersOfSlice(actor, { ...slice, placeId: shows.placeId }, mostOutside);
}

/** The content of a paper that a visitor is shown, or of its attachment: of its current version, or of that which they are to sign. */
export async function contentOutside(
  visitor: Visitor,
  documentId: string,
  attachment: number | null,
  capability: 'see' | 'take',
) {
  await paperOutside(visitor, documentId);
  const version = visitor.shows.kind === 'paper' ? visitor.shows.version : null;
  return contentFor(visitor.actor, { documentId, version, attachment }, capability);
}

/** A paper that a visitor is shown. */
export async function paperOutside(visitor: Visitor, documentId: string): Promise<PlacedPaper> {
  const { ids } = await idsOutside(visitor);
  if (!ids.includes(documentId)) refuse('not-found');
  const {
    rows: [paper],
  } = await papersInOrder(visitor.actor, [documentId]);
  return paper ?? refuse('not-found');
}
