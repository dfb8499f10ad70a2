import { usualFamilies } from '@/core/files/fileKind';
import { defaultMaxFileBytes, defaultTrayDays } from '@/core/library/model';
import { filingYearLabel, filingYearOf } from '@/core/calendar/filingYear';
import { refuse } from '@/core/errors/refusal';
import { nameKey, searchKey } from '@/core/text/fold';
import { perform } from '../acts/act';
import { recomputeAllScopes } from '../scopes/scopes';
import { db } from '../db/client';
import { filingYear, library, place } from '../db/schema';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { addPerson, newPasswordHash } from '../people/people';
import { now } from '../base/clock';

/** What the first keeper says. */
export interface Founding {
  readonly libraryName: string;
  readonly name: string;
  readonly email: string;
  readonly password: string;
  readonly timeZone: string;
  readonly yearStartMonth: number;
}

/** Whether there is a library yet. */
export async function isFounded(): Promise<boolean> {
  const rows = await db().select({ id: library.id }).from(library);
  return rows.length > 0;
}

/** Founds the library with its first keeper and the current filing year. Can succeed only once: the library is one row. */
export async function foundLibrary(founding: Founding): Promise<{ keeperId: string }> {
  const founder = { personId: '', keeper: true };
  const passwordHash = await newPasswordHash(founding);
  return perform(founder, ['people', 'tree', 'access', 'given'], async (tx) => {
    const { libraryName, timeZone, yearStartMonth } = founding;
    const made = await tx
      .insert(library)
      .values({
        name: libraryName,
        timeZone,
        yearStartMonth,
        maxFileBytes: defaultMaxFileBytes,
        families: usualFamilies,
        trayDays: defaultTrayDays,
      })
      .onConflictDoNothing()
      .returning({ id: library.id });
    if (made.length === 0) refuse('gone', 'The library has a keeper already. Sign in, or ask for an invitation.');
    const { name, email } = founding;
    founder.personId = await addPerson(tx, { name, email, keeper: true, passwordHash });
    const id = crypto.randomUUID();
    await tx.insert(place).values({
      id,
      kind: 'library',
      name: libraryName,
      nameKey: nameKey(libraryName),
      searchKey: searchKey(libraryName),
      position: 1,
      lineage: [id],
      createdBy: founder.personId,
    });
    const startYear = filingYearOf(now(), { yearStartMonth, timeZone });
    await tx.insert(filingYear).values({ startYear });
    await recomputeAllScopes(tx);
    const detail = { name: libraryName, year: filingYearLabel(startYear, await libraryCalendar(tx)) };
    return {
      entry: { act: 'library.founded', subjects: [id, founder.personId], detail },
      result: { keeperId: founder.personId },
    };
  });
}
