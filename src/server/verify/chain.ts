import type { Reader } from '../db/client';
import { journalState } from '../journal/verify';
import type { Difference } from './difference';

/** Where the journal's chain breaks. */
export async function journalDifferences(reader: Reader): Promise<Difference[]> {
  const { brokenAt } = await journalState(reader);
  return brokenAt === null
    ? []
    : [
        {
          of: 'journal',
          about: String(brokenAt),
          says: 'is an entry that was changed, or does not follow the one before it',
        },
      ];
}
