/** The signature at the beginning of a binary copy, followed by flags and the length of an extension (none is defined). */
const signature = Buffer.from('PGCOPY\n\xff\r\n\0', 'latin1');
const headerBytes = signature.length + 8;

/**
 * The rows of a binary copy, each with the bytes of its columns (null: no value).
 * Source: PostgreSQL 15 documentation, "COPY", section "Binary Format".
 * @throws Error if it is not one, or ends in the middle.
 */
export async function* rowsOfCopy(stream: AsyncIterable<Buffer>): AsyncGenerator<(Buffer | null)[], void, void> {
  const bytes = new Gathering(stream);
  const header = await bytes.take(headerBytes);
  if (!header.subarray(0, signature.length).equals(signature)) throw new Error('Not a binary copy');
  await bytes.take(header.readUInt32BE(signature.length + 4));
  for (;;) {
    const columns = (await bytes.take(2)).readInt16BE();
    if (columns === -1) break;
    const row: (Buffer | null)[] = [];
    for (let column = 0; column < columns; column += 1) {
      const length = (await bytes.take(4)).readInt32BE();
      row.push(length === -1 ? null : await bytes.take(length));
    }
    yield row;
  }
  // Read to its end, so that the connection is free for the next statement.
  await bytes.end();
}

/** Takes a stream's bytes by counts. */
class Gathering {
  readonly #parts: AsyncIterator<Buffer>;
  #rest: Buffer = Buffer.alloc(0);

  constructor(stream: AsyncIterable<Buffer>) {
    this.#parts = stream[Symbol.asyncIterator]();
  }

  /** The next so many bytes: a view where they came together, else a copy. */
  async take(count: number): Promise<Buffer> {
    if (this.#rest.length >= count) return this.#cut(count);
    const taken = Buffer.allocUnsafe(count);
    for (let filled = 0; ;) {
      const part = this.#cut(Math.min(count - filled, this.#rest.length));
      filled += part.copy(taken, filled);
      if (filled === count) return taken;
      if (!(await this.#next())) throw new Error('A copy ended in the middle');
    }
  }

  /** Reads on to the end of the stream. */
  async end(): Promise<void> {
    while (await this.#next());
  }

  #cut(count: number): Buffer {
    const part = this.#rest.subarray(0, count);
    this.#rest = this.#rest.subarray(count);
    return part;
  }

  async #next(): Promise<boolean> {
    const next = await this.#parts.next();
    if (next.done) return false;
    this.#rest = next.value;
    return true;
  }
}
