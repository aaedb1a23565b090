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
    const at = this.step(1);
    this.view.setUint8(at, value);
  }
  u16(value: number): void {
    const at = this.step(2);
    this.view.setUint16(at, value, true);
  }
  u32(value: number): void {
    const at = this.step(4);
    this.view.setUint32(at, value, true);
  }
  u16be(value: number): void {
    const at = this.step(2);
    this.view.setUint16(at, value, false);
  }
  u32be(value: number): void {
    const at = this.step(4);
    this.view.setUint32(at, value, false);
  }
  put(bytes: Uint8Array): void {
    const at = this.step(bytes.length); // may replace this.bytes, so it comes first
    this.bytes.set(bytes, at);
  }

  /** A copy of what was written. */
  done(): Uint8Array {
    return this.bytes.slice(0, this.length);
  }
}
