import { and, desc, eq, sql } from 'drizzle-orm';
import { now } from '../base/clock';
import { actsInSteps, asks } from '../acts/operation';
import { db, writableDb } from '../db/client';
import { person, recentSearch } from '../db/schema';
import { ownOf } from '../gate/visible';

/** So many are kept. */
const most = 10;

/** What the caller looked for lately, the newest first; null where they do not want it kept. Nobody else is ever told. */
export const recentSearches = asks('search.recent', async (actor) => {
  const personId = ownOf(actor);
  if (personId === null) return null;
  const [found] = await db().select({ keeps: person.keepsSearches }).from(person).where(eq(person.id, personId));
  if (!found?.keeps) return null;
  const rows = await db()
    .select({ words: recentSearch.words, at: recentSearch.at })
    .from(recentSearch)
    .where(eq(recentSearch.personId, personId))
    .orderBy(desc(recentSearch.at))
    .limit(most);
  return rows.map(({ words, at }) => ({ words, at: at.toISOString() }));
});

/** Notes what the caller looked for, unless they do not want it kept. Has no journal entry: what people look for is private. */
export const rememberSearch = actsInSteps('search.remember', async ({ personId }, { words }) => {
  // One statement: whether it is to be kept is decided at the moment of keeping.
  await writableDb().execute(sql`
    insert into ${recentSearch} (person_id, words, at)
    select id, ${words}, ${now().toISOString()}::timestamptz from ${person} where id = ${personId} and keeps_searches
    on conflict (person_id, words) do update set at = excluded.at`);
  await writableDb().execute(sql`
    delete from ${recentSearch} where person_id = ${personId} and words not in (
      select words from ${recentSearch} where person_id = ${personId} order by at desc limit ${most})`);
  return null;
});

/** Empties what is kept, or one of it, and says whether any is to be kept from now on. Has no journal entry either. */
export const forgetSearches = actsInSteps('search.forget', async ({ personId }, { words, keep }) => {
  await writableDb().update(person).set({ keepsSearches: keep }).where(eq(person.id, personId));
  await writableDb()
    .delete(recentSearch)
    .where(and(eq(recentSearch.personId, personId), words === null ? sql`true` : eq(recentSearch.words, words)));
  return null;
});
