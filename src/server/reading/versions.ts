import { asc, eq, sql } from 'drizzle-orm';
import { refuse, Refusal } from '@/core/errors/refusal';
import { asks } from '../acts/operation';
import { readContent } from '../blobs/content';
import { runningFingerprint } from '../blobs/fingerprint';
import { bytesFile, inFolder } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { readCaged } from '../cage/reader';
import { db } from '../db/client';
import { readingPage } from '../db/schema';
import { contentFor } from '../documents/content';
import type { Actor } from '../gate/actor';

/** The most text of a version that is compared. In characters. */
const mostCompared = 2_000_000;

/** Two versions of a paper, word by word. */
export const compareVersions = asks('paper.compare', async (actor, { documentId, one, other }) => {
  const [before, after] = [await textOf(actor, documentId, one), await textOf(actor, documentId, other)];
  return inFolder(async (folder) =>
    readCaged('compare', await bytesFile(folder, Buffer.from(JSON.stringify({ one: before, other: after }))), {}),
  ).catch((error: unknown) => {
    if (!(error instanceof CagedFault)) throw error;
    return refuse('too-large', 'These versions take too long to compare. Read them side by side.');
  });
});

async function textOf(actor: Actor, documentId: string, version: number): Promise<string[]> {
  const { sha256 } = await contentFor(actor, { documentId, version, attachment: null }, 'take');
  let left = mostCompared;
  const pages = await db()
    .select({ words: sql<string>`left(${readingPage.words}, ${mostCompared}::integer)` })
    .from(readingPage)
    .where(eq(readingPage.sha256, sha256))
    .orderBy(asc(readingPage.page));
  return pages.map(({ words }) => {
    const kept = words.slice(0, left);
    left -= kept.length;
    return kept;
  });
}

/** Reads a version's content again and tells whether it is still what was filed. */
export const checkVersion = asks('paper.check', async (actor, { documentId, version }) => {
  try {
    const content = await contentFor(actor, { documentId, version, attachment: null }, 'see');
    const running = runningFingerprint(content.sizeBytes);
    try {
      for await (const piece of readContent(content)) await running.update(piece);
      return { whole: (await running.finish()).sha256 === content.sha256 };
    } finally {
      running.end();
    }
  } catch (error) {
    if (error instanceof Refusal && error.issue.kind === 'damaged-content') return { whole: false };
    throw error;
  }
});
