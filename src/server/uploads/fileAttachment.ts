import { and, eq, isNull } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { kindOfMediaType } from '@/core/files/fileKind';
import { tidyTitle } from '@/core/files/title';
import { actsInSteps } from '../acts/operation';
import { perform, type Done } from '../acts/act';
import type { Tx } from '../db/client';
import { document, version } from '../db/schema';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { paperAllows } from '../gate/visible';
import { acceptedFamilies, receivingPlace } from './settle';
import { contentFor } from '../documents/content';
import { filePapers } from '../documents/file';

/**
 * Files a mail's attachment as a paper of its own beside the mail, as open as that place is. Where its content lies there
 * already, that paper is the answer: asked for twice, it is filed once.
 */
export const fileAttachment = actsInSteps('paper.fileAttachment', async (actor, { documentId, attachment }) => {
  const content = await contentFor(actor, { documentId, version: null, attachment }, 'take');
  const kind = kindOfMediaType(content.mediaType);
  if (!kind || !(await acceptedFamilies()).includes(kind.family))
    refuse('kind-refused', 'This library does not take files of this kind. The attachment stays in the mail.');
  return perform(actor, async (tx): Promise<Done<{ documentId: string; wasThere: boolean }>> => {
    // Locks the mail: of two who ask at once, the second finds what the first has filed.
    const [mail] = await papersFor(tx, actor, [documentId], 'see');
    if (!mail) refuse('not-found');
    const target = await receivingPlace(tx, actor, mail.homeId);
    const there = await filedThere(tx, actor, target.id, content.sha256);
    if (there) return { entry: null, result: { documentId: there, wasThere: true } };
    const { sha256, sizeBytes, fileName, mediaType } = content;
    const stored = { sha256, arrived: null, sizeBytes, fileName, mediaType, stamp: kind.stamp };
    const title = tidyTitle(fileName);
    const [filed] = await filePapers(tx, actor, [{ placeId: target.id, title, remark: '', content: stored }]);
    if (!filed) throw new Error('The attachment was not filed');
    return {
      entry: { act: 'paper.filed', subjects: [filed.documentId, target.id], detail: { title: filed.title, sha256 } },
      result: { documentId: filed.documentId, wasThere: false },
    };
  });
});

async function filedThere(tx: Tx, actor: Actor, placeId: string, sha256: string): Promise<string | null> {
  const [found] = await tx
    .select({ id: document.id })
    .from(document)
    .innerJoin(version, eq(version.id, document.versionId))
    .where(
      and(
        eq(document.homeId, placeId),
        eq(version.sha256, sha256),
        isNull(document.disposedAt),
        paperAllows(actor, 'see'),
      ),
    )
    .limit(1);
  return found?.id ?? null;
}
