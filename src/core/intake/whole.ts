/** So much of a file’s end says whether it is whole. In bytes: the longest end of a ZIP archive (PKWARE APPNOTE, 4.3.16). */
export const endBytes = 65_557;

const starts = (bytes: Buffer, ...values: readonly number[]): boolean =>
  values.every((value, at) => bytes[at] === value);
/** The last chunk of a PNG (ISO/IEC 15948, 11.2.5). */
const pngEnd = Buffer.from([0x49, 0x45, 0x4e, 0x44, 0xae, 0x42, 0x60, 0x82]);
const zipEnd = Buffer.from([0x50, 0x4b, 0x05, 0x06]);
/** The marker that ends a JPEG picture (ITU-T T.81, B.1.1.3). */
const jpegEnd = Buffer.from([0xff, 0xd9]);

/**
 * Whether a file has come to its end, as far as its kind tells: scanners write slowly, and a machine that is switched off in the middle
 * leaves half of a file. A kind that has no end of its own counts as whole.
 * @param head its first bytes, 1,024 at least where it has so many
 * @param tail its last bytes, `endBytes` where it has so many
 */
export function looksWhole(head: Buffer, tail: Buffer, sizeBytes: number): boolean {
  if (sizeBytes === 0) return false;
  // ISO 32000-2, 7.5.5: readers look for the end within the last 1,024 bytes (annex H of its first edition).
  if (head.subarray(0, 1024).includes('%PDF-')) return tail.subarray(-1024).includes('%%EOF');
  if (starts(head, 0x89, 0x50, 0x4e, 0x47)) return tail.subarray(-64).includes(pngEnd);
  if (starts(head, 0xff, 0xd8, 0xff)) return tail.subarray(-4096).includes(jpegEnd);
  if (starts(head, 0x50, 0x4b, 0x03, 0x04)) return tail.includes(zipEnd);
  const isLittle = starts(head, 0x49, 0x49, 0x2a, 0x00);
  if ((isLittle || starts(head, 0x4d, 0x4d, 0x00, 0x2a)) && head.length >= 8) {
    // TIFF 6.0, section 2: the list of a picture’s parts stands where bytes 4 to 7 say; most writers put it after the picture.
    const at = isLittle ? head.readUInt32LE(4) : head.readUInt32BE(4);
    return at >= 8 && at + 6 <= sizeBytes;
  }
  return true;
}
