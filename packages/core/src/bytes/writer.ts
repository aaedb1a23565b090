/** Memory for a message of so many bytes; its contents do not matter. */
export type Allocate = (count: number) => Uint8Array;

/** Small messages are cut from one larger piece of memory each: that is several times quicker than a piece for each. */
const pieceBytes = 8192;
const smallBytes = 512;
let piece = new ArrayBuffer(pieceBytes);
let taken = 0;

function cut(count: number): Uint8Array {
  if (count > smallBytes) return new Uint8Array(count);
  if (taken + count > pieceBytes) {
    piece = new ArrayBuffer(pieceBytes);
    taken = 0;
  }
  const own = new Uint8Array(piece, taken, count);
  taken += (count + 7) & ~7;
  return own;
}

/** Collects little-endian parts of a message; grows as needed. */
export class Writer {
  private bytes = new Uint8Array(64);
  private length = 0;

  private step(count: number): number {
    const at = this.length;
    this.length += count;
    if (this.length > this.bytes.length) {
      const larger = new Uint8Array(Math.max(this.length, this.bytes.length * 2));
      larger.set(this.bytes);
      this.bytes = larger;
    }
    return at;
  }

  /** Bytes that were written so far. */
  get written(): number {
    return this.length;
  }

  u8(value: number): void {
    const at = this.step(1);
    this.bytes[at] = value;
  }
  u16(value: number): void {
    const at = this.step(2);
    this.bytes[at] = value;
    this.bytes[at + 1] = value >> 8;
  }
  u32(value: number): void {
    const at = this.step(4);
    const { bytes } = this;
    bytes[at] = value;
    bytes[at + 1] = value >>> 8;
    bytes[at + 2] = value >>> 16;
    bytes[at + 3] = value >>> 24;
  }
  u16be(value: number): void {
    const at = this.step(2);
    this.bytes[at] = value >> 8;
    this.bytes[at + 1] = value;
  }
  u32be(value: number): void {
    const at = this.step(4);
    const { bytes } = this;
    bytes[at] = value >>> 24;
    bytes[at + 1] = value >>> 16;
    bytes[at + 2] = value >>> 8;
    bytes[at + 3] = value;
  }
  put(bytes: Uint8Array): void {
    const at = this.step(bytes.length); // may replace this.bytes, so it comes first
    this.bytes.set(bytes, at);
  }
  /** Replaces one byte that was written before. */
  patch(at: number, value: number): void {
    this.bytes[at] = value;
  }

  patchU16(at: number, value: number): void {
    this.bytes[at] = value;
    this.bytes[at + 1] = value >> 8;
  }

  /** A copy of what was written. */
  done(allocate: Allocate = cut): Uint8Array {
    const { bytes, length } = this;
    const own = allocate(length);
    if (length > 64) own.set(bytes.subarray(0, length));
    else for (let i = 0; i < length; i += 1) own[i] = bytes[i]!;
    return own;
  }

  clear(): void {
    this.length = 0;
  }
}

/** Writers that wait for their next message: one for each level of messages inside messages. */
const idle: Writer[] = [];
/** A larger message's buffer is not kept. */
const keptBytes = 4096;

/**
 * The bytes that `write` puts down. Who hands them to a socket passes its own memory, which the socket need not wrap
 * again.
 */
export function written(write: (to: Writer) => void, allocate: Allocate = cut): Uint8Array {
  const writer = idle.pop() ?? new Writer();
  try {
    write(writer);
    return writer.done(allocate);
  } finally {
    if (writer.written <= keptBytes) {
      writer.clear();
      idle.push(writer);
    }
  }
}
