import { and, eq, inArray } from 'drizzle-orm';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { document, place, version } from '../db/schema';
import { paperAllows } from '../gate/visible';
import { standName } from '../known/standing';

/** The papers that the caller may see whose content is now one of these, one for each content. */
export const contentsAlike = asks('uploads.alike', (actor, { sha256s }) =>
  db()
    .selectDistinctOn([version.sha256], {
      sha256: version.sha256,
      documentId: document.id,
      title: document.title,
      placeName: standName(actor),
    })
    .from(version)
    .innerJoin(document, eq(document.versionId, version.id))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(inArray(version.sha256, sha256s), paperAllows(actor, 'see')))
    .orderBy(version.sha256, document.filedAt),
);
