import { hexOf } from '../bytes/hexBytes.js';

/** A run of bytes of a message, what it is called in its standard, and what it says there. */
export interface FramePart {
  bytes: string;
  name: string;
  means: string;
}

/** Takes a message apart from its beginning, part by part; what is missing at its end is said, never thrown. */
export class Parts {
  readonly list: FramePart[] = [];
  private at = 0;
  private readonly view: DataView;

  constructor(private readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  get left(): number {
    return this.bytes.length - this.at;
  }

  /** The next number of so many bytes; 0 where the message ends before. */
  number(
    size: 1 | 2 | 4,
    name: string,
    means: (value: number) => string = String,
    order: 'little' | 'big' = 'little',
  ): number {
    if (this.left < size) {
      if (this.left > 0) this.rest(`${name}, cut short`);
      return 0;
    }
    const read = { 1: 'getUint8', 2: 'getUint16', 4: 'getUint32' } as const;
    const value = this.view[read[size]](this.at, order === 'little');
    this.put(size, name, means(value));
    return value;
  }

  /** The next bytes as they are. */
  take(size: number, name: string, means = ''): Uint8Array {
    const taken = this.bytes.subarray(this.at, this.at + Math.min(size, this.left));
    if (taken.length > 0) this.put(taken.length, name, means);
    return taken;
  }

  /** All that is left. */
  rest(name: string, means = ''): Uint8Array {
    return this.take(this.left, name, means);
  }

  private put(size: number, name: string, means: string): void {
    this.list.push({ bytes: hexOf(this.bytes.subarray(this.at, this.at + size)), name, means });
    this.at += size;
  }
}

/** A number in hex, whole bytes of it, as standards write codes. */
export function hexText(value: number): string {
  const digits = value.toString(16).toUpperCase();
  return `16#${digits.padStart(digits.length + (digits.length % 2), '0')}`;
}
