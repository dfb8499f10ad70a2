import { and, desc, eq, isNotNull, isNull } from 'drizzle-orm';
import { sureOfFirst } from '@/core/intake/evidence';
import { filedAs, isFilledIn } from '@/core/intake/fields';
import { howSure, type SureRow, type Told } from '@/core/intake/howSure';
import { singleKinds } from '@/core/stated/model';
import { isSame } from '@/core/stated/taught';
import { db } from '../db/client';
import { arrival } from '../db/schema';
import { papersOfFiled } from './filedPapers';

/** So many of the arrivals that were filed last are looked at. */
const mostLooked = 500;

/** How sure the library said to be of places and values of what people have filed since, and how often it was right. */
export async function howSureOfFiled(): Promise<{ readonly places: SureRow[]; readonly values: SureRow[] }> {
  const last = await db()
    .select()
    .from(arrival)
    .where(and(eq(arrival.state, 'filed'), isNull(arrival.byRule), isNotNull(arrival.proposal)))
    .orderBy(desc(arrival.doneAt))
    .limit(mostLooked);
  const papers = await papersOfFiled(last);
  const places = last.flatMap(({ proposal, dossierId }): Told[] => {
    const [first] = proposal?.candidates ?? [];
    return !proposal || !first || dossierId === null
      ? []
      : [{ sure: sureOfFirst(proposal.candidates), right: first.dossierId === dossierId }];
  });
  const values = [...papers.values()].flat().flatMap(({ stated, columns, values: filed }) =>
    stated.flatMap((each): Told[] => {
      const kind = singleKinds.find((single) => single === each.kind);
      if (!kind || !isFilledIn(each, columns)) return [];
      const value = filedAs(kind, columns, filed);
      return [{ sure: each.sure, right: value !== null && isSame(kind, value, each.value) }];
    }),
  );
  return { places: howSure(places), values: howSure(values) };
}
