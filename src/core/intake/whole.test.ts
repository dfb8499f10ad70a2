import { endBytes, looksWhole } from './whole';

const whole = (bytes: Buffer) => looksWhole(bytes.subarray(0, 1024), bytes.subarray(-endBytes), bytes.length);
const body = Buffer.alloc(5000, 0x41);
const joined = (...parts: readonly (string | Buffer | readonly number[])[]) =>
  Buffer.concat(parts.map((each) => (typeof each === 'string' ? Buffer.from(each, 'latin1') : Buffer.from(each))));

/** The smallest TIFF there is: its list of parts at 8. */
const tiff = (at: number, length: number) => joined('II*\0', [at & 255, at >> 8, 0, 0], Buffer.alloc(length - 8));

describe('a file that somebody still writes', () => {
  it.each([
    ['PDF', joined('%PDF-1.4\n', body, '\nstartxref\n9\n%%EOF\n')],
    ['PNG', joined([0x89], 'PNG\r\n', [0x1a, 0x0a], body, [0, 0, 0, 0], 'IEND', [0xae, 0x42, 0x60, 0x82])],
    ['JPEG', joined([0xff, 0xd8, 0xff, 0xe0], body, [0xff, 0xd9])],
    ['ZIP', joined('PK', [3, 4], body, 'PK', [5, 6], Buffer.alloc(18))],
    ['TIFF', tiff(400, 500)],
  ])('%s: the whole is told from its beginning, wherever it breaks off', (_kind, file) => {
    expect(whole(file)).toBe(true);
    for (const share of [0.3, 0.6, 0.8]) expect(whole(file.subarray(0, Math.floor(file.length * share)))).toBe(false);
  });

  it('is not whole while it is empty; and a kind without an end of its own is as it is', () => {
    expect(whole(Buffer.alloc(0))).toBe(false);
    expect(whole(Buffer.from('Minutes of the'))).toBe(true);
    expect(whole(tiff(0, 500))).toBe(false);
  });
});
