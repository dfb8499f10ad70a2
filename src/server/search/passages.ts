import { and, eq, inArray, sql } from 'drizzle-orm';
import type { FoundInside } from '@/core/search/contract';
import type { WordLanguages } from '@/core/search/languages';
import { passageOf, type Passage } from '@/core/search/passage';
import type { Wanted } from '@/core/search/question';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { attachment, document, readingPage, searchText, version } from '../db/schema';

/** A text of a paper that may hold the words. */
interface PaperText {
  readonly sha256: string;
  /** The attachment whose text it is. */
  readonly attachment: { readonly number: number; readonly name: string } | null;
  /** The number of the earlier version whose text it is. */
  readonly version: number | null;
}

/** Texts of one paper that are looked at, its own first; pages of one text, and how much of each. */
const [mostTexts, mostPages, mostOfPage] = [8, 12, 60_000];
/** So many letters of a word are there in all its forms, nearly always. */
const stemLetters = 4;

/**
 * The passages of papers that answer a question best, by the papers' ids: in their own text, in what is attached, or, where
 * neither has more of it, in an earlier version. The caller has passed the gate.
 */
export async function passagesIn(
  documentIds: readonly string[],
  all: readonly Wanted[],
  languages: WordLanguages,
): Promise<ReadonlyMap<string, FoundInside>> {
  const texts = await textsOf(documentIds);
  const found = await Promise.all(
    [...texts].map(async ([id, some]) => [id, await bestOf(some.slice(0, mostTexts), all, languages)] as const),
  );
  return new Map(found.flatMap(([id, inside]) => (inside ? [[id, inside] as const] : [])));
}

/** The indexed texts of some papers: their own first, then what is attached, then earlier versions from the newest. */
async function textsOf(documentIds: readonly string[]): Promise<ReadonlyMap<string, readonly PaperText[]>> {
  const some = inArray(document.id, [...documentIds]);
  const [own, attached, older] = await Promise.all([
    db()
      .select({ id: document.id, sha256: searchText.sha256, version: sql<null>`null::int` })
      .from(document)
      .innerJoin(version, eq(version.id, document.versionId))
      .innerJoin(searchText, eq(searchText.sha256, version.sha256))
      .where(some),
    db()
      .select({
        id: document.id,
        sha256: searchText.sha256,
        number: attachment.number,
        name: attachment.name,
        version: sql<null>`null::int`,
      })
      .from(document)
      .innerJoin(version, eq(version.id, document.versionId))
      .innerJoin(attachment, eq(attachment.mailSha256, version.sha256))
      .innerJoin(searchText, eq(searchText.sha256, attachment.sha256))
      .where(some)
      .orderBy(attachment.number),
    db()
      .select({ id: document.id, sha256: searchText.sha256, version: version.number })
      .from(document)
      .innerJoin(version, eq(version.documentId, document.id))
      .innerJoin(searchText, eq(searchText.sha256, version.sha256))
      .where(and(some, sql`${version.id} <> ${document.versionId}`))
      .orderBy(sql`${version.number} desc`),
  ]);
  const texts = new Map<string, PaperText[]>();
  const all = [
    ...own.map((each) => ({ ...each, attachment: null })),
    ...attached.map(({ number, name, ...each }) => ({ ...each, attachment: { number, name } })),
    ...older.map((each) => ({ ...each, attachment: null })),
  ];
  for (const { id, ...text } of all) texts.set(id, [...(texts.get(id) ?? []), text]);
  return texts;
}

async function bestOf(
  texts: readonly PaperText[],
  all: readonly Wanted[],
  languages: WordLanguages,
): Promise<FoundInside | null> {
  let best: { readonly told: FoundInside; readonly terms: number } | null = null;
  for (const text of texts) {
    const found = await passageIn(text.sha256, all, languages);
    // Of equals the first holds: what is current before what was replaced.
    if (found && found.passage.terms > (best?.terms ?? 0))
      best = {
        told: {
          page: found.page,
          attachment: text.attachment,
          version: text.version,
          passage: found.passage.text,
          marks: found.passage.marks,
        },
        terms: found.passage.terms,
      };
    if (best && best.terms === all.length) break;
  }
  return best?.told ?? null;
}

async function passageIn(
  sha256: string,
  all: readonly Wanted[],
  languages: WordLanguages,
): Promise<{ page: number; passage: Passage } | null> {
  const starts = all.flatMap(({ words, part }) =>
    part === null ? words.map((word) => word.slice(0, stemLetters)) : [part],
  );
  const likely = sql.join(
    starts.map((start) => sql`(${readingPage.words} ilike ${`%${escapeLike(start)}%`})::int`),
    sql` + `,
  );
  const pages = await db()
    .select({ page: readingPage.page, words: sql<string>`left(${readingPage.words}, ${mostOfPage}::integer)` })
    .from(readingPage)
    .where(eq(readingPage.sha256, sha256))
    .orderBy(sql`(${likely}) desc`, readingPage.page)
    .limit(mostPages);
  let best: { page: number; passage: Passage } | null = null;
  for (const { page, words } of pages) {
    const passage = passageOf(words, all, languages);
    if (passage && passage.terms > (best?.passage.terms ?? 0)) best = { page, passage };
    if (best?.passage.terms === all.length) break;
  }
  return best;
}
