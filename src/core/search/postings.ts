/**
 * Postings: in which texts a term stands, and where. Texts have ascending numbers. A block holds texts in that order:
 *
 * `docs`: the first number (uint32, big endian), the bytes that follow (uint32), then for each text two varints: how far its
 * number is from the one before (0 for the first), and how often the term stands in it.
 * `pos`: the bytes that follow (uint32), then the positions in each text as varints, each from the one before.
 *
 * A block names its own first number, so that the blocks of two segments are joined by putting one behind the other.
 */
export interface Postings {
  /** Ascending. */
  readonly numbers: Int32Array;
  /** How often the term stands in each of them. */
  readonly counts: Int32Array;
  /** Where it stands in the text at an index of `numbers`: ascending. Read when first asked for. */
  positionsAt(at: number): Int32Array;
}

/** A text in which a term stands. Positions ascend, and there is at least one. */
export interface Entry {
  readonly number: number;
  readonly positions: readonly number[];
}

/** A block of postings as it is stored. */
export interface Block {
  readonly docs: Uint8Array;
  readonly pos: Uint8Array;
}

/** Writes entries, whose numbers ascend, as one block. */
export function blockOf(entries: readonly Entry[]): Block {
  const [docs, pos] = [new Writer(), new Writer()];
  let before = entries[0]?.number ?? 0;
  for (const { number, positions } of entries) {
    docs.varint(number - before);
    docs.varint(positions.length);
    before = number;
    let last = 0;
    for (const position of positions) {
      pos.varint(position - last);
      last = position;
    }
  }
  return { docs: framed([entries[0]?.number ?? 0], docs.bytes()), pos: framed([], pos.bytes()) };
}

/** Reads blocks that were put one behind the other. Positions are read when they are first asked for. @throws Error if they are none */
export function readPostings(docs: Uint8Array, pos: Uint8Array): Postings {
  // Each text takes two bytes or more.
  const [numbers, counts] = [new Int32Array(docs.length >> 1), new Int32Array(docs.length >> 1)];
  let [length, total] = [0, 0];
  for (let at = 0; at < docs.length;) {
    let number = uint32(docs, at);
    const end = at + 8 + uint32(docs, at + 4);
    const reader = new Reader(docs, at + 8, end);
    while (reader.at < end) {
      number += reader.varint();
      const count = reader.varint();
      numbers[length] = number;
      counts[length] = count;
      length += 1;
      total += count;
    }
    at = end;
  }
  let places: { readonly starts: Int32Array; readonly positions: Int32Array } | null = null;
  const ofTexts = counts.slice(0, length);
  return {
    numbers: numbers.slice(0, length),
    counts: ofTexts,
    positionsAt: (at) => {
      const { starts, positions } = (places ??= readPositions(pos, ofTexts, total));
      return positions.subarray(starts[at] ?? 0, starts[at + 1] ?? 0);
    },
  };
}

function readPositions(pos: Uint8Array, counts: Int32Array, total: number) {
  const positions = new Int32Array(total);
  const starts = new Int32Array(counts.length + 1);
  let [text, filled, at] = [0, 0, 0];
  while (at < pos.length) {
    const end = at + 4 + uint32(pos, at);
    const reader = new Reader(pos, at + 4, end);
    while (reader.at < end) {
      let position = 0;
      for (let left = counts[text] ?? 0; left > 0; left -= 1) {
        position += reader.varint();
        positions[filled] = position;
        filled += 1;
      }
      text += 1;
      starts[text] = filled;
    }
    at = end;
  }
  if (filled !== total) throw new Error(`Postings have ${filled} positions and say ${total}`);
  return { starts, positions };
}

function uint32(bytes: Uint8Array, at: number): number {
  if (at + 4 > bytes.length) throw new Error('Postings end within a number');
  return new DataView(bytes.buffer, bytes.byteOffset + at, 4).getUint32(0);
}

function framed(before: readonly number[], body: Uint8Array): Uint8Array {
  const head = new Uint8Array(4 * (before.length + 1));
  const view = new DataView(head.buffer);
  [...before, body.length].forEach((number, at) => view.setUint32(at * 4, number));
  const whole = new Uint8Array(head.length + body.length);
  whole.set(head);
  whole.set(body, head.length);
  return whole;
}

/** Numbers as seven bits a byte, the lowest first; the eighth says that more follow (LEB128). */
class Writer {
  #bytes = new Uint8Array(64);
  #length = 0;

  varint(number: number): void {
    let rest = number;
    while (rest > 0x7f) {
      this.#push((rest & 0x7f) | 0x80);
      rest = Math.floor(rest / 0x80);
    }
    this.#push(rest);
  }

  bytes(): Uint8Array {
    return this.#bytes.slice(0, this.#length);
  }

  #push(byte: number): void {
    if (this.#length === this.#bytes.length) {
      const larger = new Uint8Array(this.#bytes.length * 2);
      larger.set(this.#bytes);
      this.#bytes = larger;
    }
    this.#bytes[this.#length] = byte;
    this.#length += 1;
  }
}

class Reader {
  constructor(
    readonly bytes: Uint8Array,
    public at: number,
    readonly end: number,
  ) {}

  varint(): number {
    let [number, scale] = [0, 1];
    for (;;) {
      const byte = this.bytes[this.at];
      if (byte === undefined || this.at >= this.end) throw new Error('Postings end within a number');
      this.at += 1;
      number += (byte & 0x7f) * scale;
      if (byte < 0x80) return number;
      scale *= 0x80;
    }
  }
}
