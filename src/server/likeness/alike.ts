import { and, eq, isNull, sql } from 'drizzle-orm';
import { bandsOf, likenessOf, muchAlike } from '@/core/likeness/sketch';
import { isUnderWay, readingOf } from '@/core/reading/stages';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { document, likenessBand, place, reading, version } from '../db/schema';
import { contentFor, currentOf } from '../documents/content';
import { resultsOf } from '../extraction/read';
import type { Actor } from '../gate/actor';
import { paperAllows } from '../gate/visible';
import { standId, standName } from '../known/standing';

/** The most papers that are told. */
const most = 8;
/** A band that more contents share says nothing of them: all are forms of one kind. */
const mostInBand = 200;
/** The most candidates whose sketches are compared. */
const mostCompared = 400;

/** Papers that the caller may see whose text is the same as a paper's or much like it. */
export const alikePapers = asks('paper.alike', async (actor, { documentId }) => {
  const { sha256 } = await contentFor(actor, currentOf(documentId), 'see');
  const [own] = await db()
    .select({ textKey: reading.textKey, sketch: reading.sketch })
    .from(reading)
    .where(eq(reading.sha256, sha256));
  const isRead = !isUnderWay(readingOf(await resultsOf(sha256), false));
  if (!own?.textKey) return { isRead, papers: [] };
  const candidates = await candidatesFor(actor, documentId, own.textKey, own.sketch);
  const papers = candidates
    .map(({ textKey, sketch, filedAt, ...paper }) => ({
      ...paper,
      filedAt: filedAt.toISOString(),
      likeness: textKey === own.textKey ? 1 : own.sketch && sketch ? Math.min(0.99, likenessOf(own.sketch, sketch)) : 0,
    }))
    .filter((paper) => paper.likeness >= muchAlike)
    .sort((one, other) => other.likeness - one.likeness || (one.filedAt < other.filedAt ? 1 : -1));
  return { isRead, papers: papers.slice(0, most) };
});

/** Papers, other than this one, whose current text is the same or shares a band. Those kept from the caller are none of them. */
function candidatesFor(actor: Actor, documentId: string, textKey: string, sketch: readonly number[] | null) {
  const keys = sketch === null ? [] : bandsOf(sketch);
  return db()
    .select({
      documentId: document.id,
      title: document.title,
      stamp: document.stamp,
      placeId: standId(actor),
      placeName: standName(actor),
      filedAt: document.filedAt,
      textKey: reading.textKey,
      sketch: reading.sketch,
    })
    .from(document)
    .innerJoin(version, eq(version.id, document.versionId))
    .innerJoin(reading, eq(reading.sha256, version.sha256))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        isNull(document.disposedAt),
        paperAllows(actor, 'see'),
        sql`${document.id} <> ${documentId}`,
        sql`${version.sha256} in (
          select sha256 from reading where text_key = ${textKey}
          union
          select shared.sha256
          from unnest(${sql.param(keys)}::integer[]) with ordinality as own (key, number)
          cross join lateral (
            select ${likenessBand.sha256} as sha256 from ${likenessBand}
            where ${likenessBand.band} = own.number - 1 and ${likenessBand.key} = own.key
            limit ${mostInBand}
          ) as shared
        )`,
      ),
    )
    .limit(mostCompared);
}
