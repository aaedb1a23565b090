import { Problem } from '../messages/problem.js';

/** Reads little-endian parts from bytes that came from outside; throws `bytes.short` instead of running past the end. */
export class Reader {
  private readonly view: DataView;
  at = 0;

  constructor(
    readonly bytes: Uint8Array,
    private readonly what: string,
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  get left(): number {
    return this.bytes.length - this.at;
  }

  private step(count: number): number {
    if (count > this.left)
      throw new Problem('bytes.short', { what: this.what, need: this.at + count, have: this.bytes.length });
    const at = this.at;
    this.at += count;
    return at;
  }

  u8 = (): number => this.view.getUint8(this.step(1));
  u16 = (): number => this.view.getUint16(this.step(2), true);
  u32 = (): number => this.view.getUint32(this.step(4), true);
  /** Network order, as in socket addresses. */
  u16be = (): number => this.view.getUint16(this.step(2), false);
  u32be = (): number => this.view.getUint32(this.step(4), false);

  /** A view, not a copy, of the next `count` bytes. */
  take(count: number): Uint8Array {
    const at = this.step(count);
    return this.bytes.subarray(at, at + count);
  }

  rest = (): Uint8Array => this.take(this.left);
}
