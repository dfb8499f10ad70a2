import type { FindPerson } from '@/core/dossiers/details';
import { personFinder } from '../columns/read';
import type { Reader } from '../db/client';

/** Finds active people by id, address or full name; a name shared by two finds neither. */
export async function peopleFinder(reader: Reader): Promise<FindPerson> {
  const find = await personFinder(reader);
  return (words) => {
    const found = find(words);
    return found === 'several' ? null : found;
  };
}
