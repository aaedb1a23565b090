import type { Endpoint } from './packets.js';
import type { Tap, TcpTap } from './tap.js';

/** A message as it stood in the stream, and who sent it. */
export interface HeardFrame {
  answer: boolean;
  bytes: Uint8Array;
}

/** One request takes no more messages than these; a mailbox is asked until it is done. */
const mostFrames = 16;

/** Keeps the messages of the last request beside what another tap notes. */
export class HeardFrames implements Tap {
  private frames: HeardFrame[] = [];

  constructor(private readonly inner: Tap) {}

  get listens(): boolean {
    return this.inner.listens;
  }

  /** Another request begins. */
  begin(): void {
    this.frames = [];
  }

  /** The messages since then. */
  get last(): readonly HeardFrame[] {
    return this.frames;
  }

  udp(from: Endpoint, to: Endpoint, data: Uint8Array): void {
    this.inner.udp(from, to, data);
  }
  remark(text: string): void {
    this.inner.remark(text);
  }
  tcp(client: Endpoint, server: Endpoint): TcpTap {
    const inner = this.inner.tcp(client, server);
    const keep = (answer: boolean, bytes: Uint8Array) => {
      if (this.frames.length < mostFrames) this.frames.push({ answer, bytes });
    };
    return {
      sent: (data) => {
        keep(false, data);
        inner.sent(data);
      },
      received: (data) => {
        // The socket uses its buffer again.
        keep(true, data.slice());
        inner.received(data);
      },
      closed: () => inner.closed(),
    };
  }
}
