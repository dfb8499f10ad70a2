import { asc, eq } from 'drizzle-orm';
import { countOf } from '@/core/reading/find';
import { placeInCopy } from '@/core/packs/copies';
import { paperPages } from '@/core/packs/record';
import { grouped } from '@/core/collections/grouped';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { readingPage, version } from '../db/schema';
import { spotsOnPage } from '../reading/find';
import { copyOf } from './copies';
import { packContent, readingOf } from './reading';

/** The pages of the caller's copy on which a phrase stands, among those of papers. It tells no word of them. */
export const findInPack = asks('pack.findIn', async (actor, { issueId, phrase }) => {
  const { issue, leftOut } = await readingOf(actor, issueId);
  if (issue.state !== 'done' || phrase.trim() === '') return { pages: [] };
  const { plan, runs } = copyOf(issue.record, leftOut);
  const out = new Set(leftOut);
  const pages = paperPages(plan, issue.record.entries).filter(({ entry }) => !out.has(entry.id));
  const words = grouped(
    await db()
      .select({ versionId: version.id, page: readingPage.page, words: readingPage.words })
      .from(version)
      .innerJoin(readingPage, eq(readingPage.sha256, version.sha256))
      .where(idIn(version.id, new Set(pages.map(({ entry }) => entry.versionId))))
      .orderBy(asc(readingPage.page)),
    ({ versionId, page }) => `${versionId} ${page}`,
  );
  return {
    pages: pages.flatMap(({ number, entry, page }) => {
      const count = countOf(words.get(`${entry.versionId} ${page}`)?.[0]?.words ?? '', phrase);
      return count === 0 ? [] : [{ page: placeInCopy(runs, number) ?? 0, count }];
    }),
  };
});

/** Where a phrase stands on one page of the caller's copy, as it is drawn. */
export const spotsInPack = asks('pack.spots', async (actor, { issueId, phrase, page }) => ({
  spots: await spotsOnPage(await packContent(actor, issueId, 'see'), page, phrase),
}));
