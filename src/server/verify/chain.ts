import type { JournalAnchor } from '@/core/journal/model';
import type { Reader } from '../db/client';
import { brokenAnchors } from '../anchors/anchor';
import { journalState } from '../journal/verify';
import type { Difference } from './difference';

/** Where the journal's chain breaks, and where it differs from its anchors. */
export async function journalDifferences(reader: Reader, anchors: readonly JournalAnchor[]): Promise<Difference[]> {
  const { brokenAt } = await journalState(reader);
  const { broken } = await brokenAnchors(reader, anchors);
  const entry = (id: number, says: string): Difference => ({ of: 'journal', about: String(id), says });
  return [
    ...(brokenAt === null
      ? []
      : [entry(brokenAt, 'is an entry that was changed, or does not follow the one before it')]),
    ...broken.map(({ entryId }) => entry(entryId, 'was written down outside the database, and is not there as it was')),
  ];
}
