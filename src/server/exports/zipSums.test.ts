import { createRequire } from 'node:module';
import path from 'node:path';
import { randomBytes } from 'node:crypto';
import { useFastSums } from './zipSums';

it('puts sums in the place of those that the archives are packed with, which are the same', () => {
  const ofYazl = createRequire(createRequire(path.resolve('package.json')).resolve('yazl'));
  const sums = ofYazl('buffer-crc32') as { unsigned: (bytes: Buffer, before?: number) => number };
  const before = sums.unsigned;
  const [one, other] = [randomBytes(1000), Buffer.from('123456789')];
  const asked = (): number[] => [sums.unsigned(one), sums.unsigned(other), sums.unsigned(other, sums.unsigned(one))];
  const slowly = asked();
  useFastSums();
  expect(sums.unsigned).not.toBe(before);
  expect(asked()).toEqual(slowly);
  // The check value of CRC-32 in the catalogue of parametrised CRC algorithms (from memory).
  expect(sums.unsigned(other)).toBe(0xcbf43926);
});
