import { createHash } from 'node:crypto';
import { crc32 } from 'node:zlib';
import fc from 'fast-check';
import { pieceBytes } from '@/core/content/model';
import { PieceSums, fingerprintOf, runningFingerprint } from './fingerprint';

it('has the check value of CRC-32 (ISO 3309; RFC 1952, section 8; the nine digits are common practice)', () => {
  const sums = new PieceSums();
  sums.update(Buffer.from('123456789'));
  expect(sums.finish()).toEqual([0xcbf43926 | 0]);
});

it('has a sum for each mebibyte, however the bytes come', () =>
  fc.assert(
    fc.property(fc.nat(2 * pieceBytes + 9), fc.array(fc.nat(3 * pieceBytes), { maxLength: 5 }), (length, cuts) => {
      const bytes = Buffer.alloc(length, 'some bytes that differ ');
      const sums = new PieceSums();
      let from = 0;
      for (const to of [...cuts.filter((cut) => cut < length).sort((one, other) => one - other), length]) {
        sums.update(bytes.subarray(from, to));
        from = to;
      }
      const pieces = Math.ceil(length / pieceBytes);
      expect(sums.finish()).toEqual(
        Array.from({ length: pieces }, (_, at) => crc32(bytes.subarray(at * pieceBytes, (at + 1) * pieceBytes)) | 0),
      );
    }),
    { numRuns: 20 },
  ));

it('is the same on a thread of its own', async () => {
  const bytes = Buffer.alloc(3 * pieceBytes + 5, 'as large content is ');
  const apart = runningFingerprint(64 * pieceBytes);
  for (let at = 0; at < bytes.length; at += 70_000)
    await apart.update(Uint8Array.from(bytes.subarray(at, at + 70_000)));
  const found = await apart.finish();
  apart.end();
  expect(found.sha256).toBe(createHash('sha256').update(bytes).digest('hex'));
  expect(found).toEqual(
    await fingerprintOf(
      (async function* () {
        yield await Promise.resolve(bytes);
      })(),
    ),
  );
});
