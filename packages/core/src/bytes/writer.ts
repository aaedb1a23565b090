/** Collects little-endian parts of a message; grows as needed. */
export class Writer {
  private bytes = new Uint8Array(64);
  private view = new DataView(this.bytes.buffer);
  private length = 0;

  private step(count: number): number {
    const at = this.length;
    this.length += count;
    if (this.length > this.bytes.length) {
      const larger = new Uint8Array(Math.max(this.length, this.bytes.length * 2));
      larger.set(this.bytes);
      this.bytes = larger;
      this.view = new DataView(larger.buffer);
    }
    return at;
  }

  u8(value: number): void {
    this.view.setUint8(this.step(1), value);
  }
  u16(value: number): void {
    this.view.setUint16(this.step(2), value, true);
  }
  u32(value: number): void {
    this.view.setUint32(this.step(4), value, true);
  }
  u16be(value: number): void {
    this.view.setUint16(this.step(2), value, false);
  }
  u32be(value: number): void {
    this.view.setUint32(this.step(4), value, false);
  }
  put(bytes: Uint8Array): void {
    this.bytes.set(bytes, this.step(bytes.length));
  }

  /** A copy of what was written. */
  done(): Uint8Array {
    return this.bytes.slice(0, this.length);
  }
}
