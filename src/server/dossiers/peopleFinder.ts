import type { FindPerson } from '@/core/dossiers/details';
import { personFinder } from '../columns/read';
import type { Reader } from '../db/client';

/** Finds active colleagues by id, whole address or whole name; a name that two have finds neither. */
export async function peopleFinder(reader: Reader): Promise<FindPerson> {
  const find = await personFinder(reader);
  return (words) => {
    const found = find(words);
    return found === 'several' ? null : found;
  };
}
