import type { SealFound } from '@/core/signoff/contract';
import { refuse } from '@/core/errors/refusal';
import { asks } from '../acts/operation';
import { contentFile, inFolder } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { readCaged } from '../cage/reader';
import type { Content } from '../blobs/contentStore';
import { contentFor, currentOf } from '../documents/content';
import { ownFingerprints } from './certificate';

/** Larger files are not checked here. */
const mostBytes = 150_000_000;

/** The seals of a paper's current content, each checked byte by byte in a caged process. Seeing the paper is enough. */
export const checkSeals = asks('seal.check', async (actor, { documentId }) => {
  const content = await contentFor(actor, currentOf(documentId), 'see');
  if (content.mediaType !== 'application/pdf') return [];
  if (content.sizeBytes > mostBytes) refuse('too-large', 'This PDF is too large for its seals to be checked here.');
  return sealsIn(content).catch((error: unknown) => {
    if (!(error instanceof CagedFault)) throw error;
    return refuse('too-large', 'The seals of this PDF could not be checked: it takes too long, or too much room.');
  });
});

/** The seals of some content that is a PDF. @throws CagedFault if it cannot be read within limits */
export async function sealsIn(content: Content): Promise<readonly SealFound[]> {
  const seals = await inFolder(async (folder) => readCaged('seals', await contentFile(folder, content), {}));
  const own = await ownFingerprints();
  return seals.map(({ state, fingerprint, by }) => ({
    state,
    isOurs: fingerprint !== null && own.has(fingerprint),
    by,
  }));
}
