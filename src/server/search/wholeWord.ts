import { asc, eq } from 'drizzle-orm';
import { termOf } from '@/core/search/analyse';
import { termLanguages, type WordLanguages } from '@/core/search/languages';
import { wordsIn } from '@/core/text/words';
import { db } from '../db/client';
import { document, readingPage, version } from '../db/schema';

/** A term as a word of a text that has it: its first form there, in small letters; null where it is not found. */
export async function wholeWord(documentId: string, term: string, languages: WordLanguages): Promise<string | null> {
  const pages = await db()
    .select({ words: readingPage.words })
    .from(document)
    .innerJoin(version, eq(version.documentId, document.id))
    .innerJoin(readingPage, eq(readingPage.sha256, version.sha256))
    .where(eq(document.id, documentId))
    .orderBy(asc(readingPage.page))
    .limit(mostPages);
  for (const { words } of pages)
    for (const word of wordsIn(words.slice(0, mostOfPage)))
      if (termLanguages(languages).some((language) => termOf(word, language) === term)) return word.toLowerCase();
  return null;
}

const [mostPages, mostOfPage] = [300, 60_000];
