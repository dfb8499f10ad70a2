import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { fromBER } from 'asn1js';
import { ContentInfo, SignedData, type Certificate } from 'pkijs';
import type { TaskResult } from '@/server/cage/tasks';
import { contentFile } from './written';

type Seal = TaskResult<'seals'>[number];

/** So many are looked at. */
const mostSeals = 20;
const commonName = '2.5.4.3';

/** The seals of a PDF: each is a signature over all bytes but its own, whose range it names (ISO 32000-2, 12.8.1). */
export async function sealsOf(): Promise<TaskResult<'seals'>> {
  const bytes = await readFile(contentFile);
  const seals: Seal[] = [];
  for (const found of bytes
    .toString('latin1')
    .matchAll(/\/ByteRange\s*\[\s*(?<range>\d{1,15}(?:\s+\d{1,15}){3})\s*\]/gu)) {
    if (seals.length === mostSeals) break;
    const range = (found.groups?.['range'] ?? '').split(/\s+/u).map(Number);
    seals.push(await sealAt(bytes, range).catch((): Seal => ({ state: 'unreadable', fingerprint: null, by: '' })));
  }
  return seals;
}

async function sealAt(
  bytes: Buffer,
  [from = 0, firstLength = 0, second = 0, secondLength = 0]: number[],
): Promise<Seal> {
  const [gapStart, end] = [from + firstLength, second + secondLength];
  const gap = bytes.subarray(gapStart, second).toString('latin1');
  const data = Buffer.concat([bytes.subarray(from, gapStart), bytes.subarray(second, end)]);
  const cms = Buffer.from(/^<(?<hex>[0-9A-Fa-f\s]*)>$/u.exec(gap)?.groups?.['hex'] ?? '', 'hex');
  const { result, offset } = fromBER(new Uint8Array(cms).buffer);
  if (offset === -1) return { state: 'unreadable', fingerprint: null, by: '' };
  const signed = new SignedData({ schema: new ContentInfo({ schema: result }).content });
  // One that brings its own content along is verified against that, and says nothing of the file.
  if (signed.encapContentInfo.eContent || !signed.signerInfos[0]?.signedAttrs)
    return { state: 'unreadable', fingerprint: null, by: '' };
  const { signatureVerified, signerCertificate } = await signed
    .verify({ signer: 0, data: new Uint8Array(data).buffer, extendedMode: true })
    .catch((error: unknown) => {
      // The library rejects where the bytes are not those that were signed.
      const known = error as { signerCertificate?: Certificate | null };
      return { signatureVerified: false, signerCertificate: known.signerCertificate };
    });
  if (!signerCertificate) return { state: 'altered', fingerprint: null, by: '' };
  const by = nameOf(signerCertificate);
  const der = Buffer.from(signerCertificate.toSchema(true).toBER());
  const fingerprint = createHash('sha256').update(der).digest('hex');
  const isRight = signatureVerified === true && from === 0 && end <= bytes.length;
  return { state: !isRight ? 'altered' : end === bytes.length ? 'whole' : 'continued', fingerprint, by };
}

function nameOf(certificate: Certificate): string {
  const named = certificate.subject.typesAndValues.find(({ type }) => type === commonName);
  return String((named?.value as { valueBlock: { value: unknown } } | undefined)?.valueBlock.value ?? '').slice(0, 200);
}
