import { orRefuse } from '@/core/errors/refusal';
import { readWebLink, uriList } from '@/core/documents/webLink';
import { tidyFileName } from '@/core/files/title';
import { acts } from '../acts/operation';
import { sha256Hex } from '../base/sha256';
import { storeBytes } from '../blobs/keep';
import { filePapers } from '../documents/file';
import { receivingPlace } from './settle';

/** Files a web link as a paper: its address is kept and never fetched. */
export const addLink = acts('paper.addLink', [], async (tx, actor, { placeId, title, address, remark }) => {
  const link = orRefuse(readWebLink(address));
  const target = await receivingPlace(tx, actor, placeId);
  const text = uriList(title, link);
  const [bytes, sha256] = [Buffer.from(text), sha256Hex(text)];
  await storeBytes(tx, sha256, bytes);
  const content = {
    sha256,
    arrived: null,
    sizeBytes: bytes.length,
    fileName: tidyFileName(`${title}.uri`),
    mediaType: 'text/uri-list',
    stamp: 'LINK' as const,
  };
  const [filed] = await filePapers(tx, actor, [{ placeId: target.id, title, remark, content }]);
  if (!filed) throw new Error('The link was not filed');
  return {
    entry: { act: 'paper.filed', subjects: [filed.documentId, target.id], detail: { title: filed.title, sha256 } },
    result: { documentId: filed.documentId },
  };
});
