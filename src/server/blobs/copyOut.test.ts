import fc from 'fast-check';
import { rowsOfCopy } from './copyOut';

/** A binary copy as the PostgreSQL 15 documentation has it ("COPY", section "Binary Format"). */
function copyOf(rows: readonly (readonly (Buffer | null)[])[], extension = Buffer.alloc(0)): Buffer {
  const int = (value: number, bytes: 2 | 4) => {
    const buffer = Buffer.alloc(bytes);
    buffer.writeIntBE(value, 0, bytes);
    return buffer;
  };
  const field = (value: Buffer | null) => (value === null ? [int(-1, 4)] : [int(value.length, 4), value]);
  return Buffer.concat([
    Buffer.from('5047434f50590aff0d0a00', 'hex'),
    int(0, 4),
    int(extension.length, 4),
    extension,
    ...rows.flatMap((row) => [int(row.length, 2), ...row.flatMap(field)]),
    int(-1, 2),
  ]);
}

async function* inParts(bytes: Buffer, cuts: readonly number[]): AsyncGenerator<Buffer> {
  const at = [0, ...[...cuts].map((cut) => cut % (bytes.length + 1)).sort((one, other) => one - other), bytes.length];
  for (const [index, from] of at.slice(0, -1).entries()) yield Promise.resolve(bytes.subarray(from, at[index + 1]));
}

const read = async (stream: AsyncIterable<Buffer>) => {
  const rows: (Buffer | null)[][] = [];
  for await (const row of rowsOfCopy(stream)) rows.push(row);
  return rows;
};

const value = fc.option(fc.uint8Array({ maxLength: 40 }).map((bytes) => Buffer.from(bytes)));

it('reads every row, however the bytes are cut', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(fc.array(value, { maxLength: 4 }), { maxLength: 6 }),
      fc.array(fc.nat(400), { maxLength: 12 }),
      fc.uint8Array({ maxLength: 9 }),
      async (rows, cuts, extension) => {
        expect(await read(inParts(copyOf(rows, Buffer.from(extension)), cuts))).toEqual(rows);
      },
    ),
  ));

it('refuses what is no binary copy, and one that ends in the middle', async () => {
  await expect(read(inParts(Buffer.alloc(40, 'x'), []))).rejects.toThrow('Not a binary copy');
  const whole = copyOf([[Buffer.from('abc')], [Buffer.from('def')]]);
  for (const end of [5, 19, 22, 27, whole.length - 1])
    await expect(read(inParts(whole.subarray(0, end), []))).rejects.toThrow('ended in the middle');
});
