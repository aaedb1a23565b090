import type { Endpoint } from './packets.js';
import type { Tap, TcpTap } from './tap.js';

/** A message as it stood in the stream, and who sent it. */
export interface HeardFrame {
  answer: boolean;
  bytes: Uint8Array;
}

/**
 * The messages of one request, one behind the other, each behind its head: they are kept by the thousand, and one piece
 * of pooled memory survives at a quarter of the cost of a list of messages.
 */
export type PackedFrames = Uint8Array;

/** One request takes no more messages than these; a mailbox is asked until it is done. */
const mostFrames = 16;
/** Before each message: who sent it, and its length in three bytes. */
const headBytes = 4;

/** The messages, in their order and in memory of their own. */
export function unpackFrames(packed: PackedFrames): HeardFrame[] {
  const frames: HeardFrame[] = [];
  for (let at = 0; at < packed.length;) {
    const begin = at + headBytes;
    const length = packed[at + 1]! | (packed[at + 2]! << 8) | (packed[at + 3]! << 16);
    frames.push({ answer: packed[at] === 1, bytes: new Uint8Array(packed.subarray(begin, begin + length)) });
    at = begin + length;
  }
  return frames;
}

/** The messages of one request, in memory that serves another one later. */
export class HeardRequest {
  private held = new Uint8Array(1024);
  private used = 0;
  private count = 0;

  clear(): void {
    this.used = 0;
    this.count = 0;
  }

  /** Its messages, to be kept; `over` is written over where they fit exactly, as those of the same question do. */
  kept(over?: PackedFrames): PackedFrames {
    const { held, used } = this;
    const own = over?.length === used ? over : Buffer.allocUnsafe(used);
    for (let i = 0; i < used; i += 1) own[i] = held[i]!;
    return own;
  }

  get silent(): boolean {
    return this.used === 0;
  }

  add(answer: boolean, bytes: Uint8Array): void {
    if (this.count === mostFrames) return;
    const { length } = bytes;
    this.count += 1;
    const at = this.used;
    const begin = at + headBytes;
    this.used = begin + length;
    if (this.used > this.held.length) {
      const larger = new Uint8Array(this.used * 2);
      larger.set(this.held);
      this.held = larger;
    }
    const { held } = this;
    held[at] = answer ? 1 : 0;
    held[at + 1] = length;
    held[at + 2] = length >> 8;
    held[at + 3] = length >> 16;
    for (let i = 0; i < length; i += 1) held[begin + i] = bytes[i]!;
  }
}

/** What was heard where nothing was asked. */
export const nothingHeard = new HeardRequest();

/** Hears the messages of each request beside what another tap notes. */
export class HeardFrames implements Tap {
  /** Of the request that began last. It holds until the one behind the next begins. */
  last = new HeardRequest();
  private before = new HeardRequest();

  constructor(private readonly inner: Tap) {}

  get listens(): boolean {
    return this.inner.listens;
  }

  /** Another request begins. */
  begin(): void {
    const { last, before } = this;
    before.clear();
    this.last = before;
    this.before = last;
  }

  udp(from: Endpoint, to: Endpoint, data: Uint8Array): void {
    this.inner.udp(from, to, data);
  }
  remark(text: string): void {
    this.inner.remark(text);
  }
  tcp(client: Endpoint, server: Endpoint): TcpTap {
    const inner = this.inner.tcp(client, server);
    return {
      sent: (data) => {
        this.last.add(false, data);
        inner.sent(data);
      },
      received: (data) => {
        this.last.add(true, data);
        inner.received(data);
      },
      closed: () => inner.closed(),
    };
  }
}
