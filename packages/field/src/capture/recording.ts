import type { Endpoint } from './packets.js';
import { PacketTap, type Tap, type TcpTap } from './tap.js';

/** How a recording does. */
export interface RecordingState {
  running: boolean;
  packets: number;
  bytes: number;
  /** Packets that were recorded and given up again, because newer ones needed the room. */
  forgotten: number;
}

/**
 * Room of a recording, bytes: five minutes of the demo, or some seconds of 250 connections at 10 ms. Each packet is an
 * object of its own beside that, so more would keep the garbage collector busy; longer captures are written to a file
 * by the command line.
 */
const usualRoom = 32 * 1024 * 1024;

const blocksInPart = 2000;

/** A capture in memory, of the newest packets that find room. */
export class Recording extends PacketTap {
  private readonly blocks: Buffer[] = [];
  /** Blocks before this one were given up. */
  private first = 0;
  private bytes = 0;
  private forgotten = 0;
  /** Set to false when it is over; packets that come later are passed over. */
  running = true;

  constructor(private readonly room = usualRoom) {
    super();
  }

  protected keep(block: Buffer): void {
    if (!this.running) return;
    this.bytes += block.length;
    this.blocks.push(block);
    while (this.bytes > this.room && this.first < this.blocks.length - 1) {
      this.bytes -= this.blocks[this.first]!.length;
      this.first += 1;
      this.forgotten += 1;
    }
    // The list is shortened now and then: to shift it with every packet would move all of it.
    if (this.first > 10_000 && this.first > this.blocks.length / 2) {
      this.blocks.splice(0, this.first);
      this.first = 0;
    }
  }

  get state(): RecordingState {
    const { running, bytes, forgotten } = this;
    return { running, packets: this.blocks.length - this.first, bytes, forgotten };
  }

  /**
   * What has been recorded so far, as a pcapng file; in parts, because to copy all of it at once would halt the links.
   */
  *file(): Generator<Buffer, void> {
    const blocks = this.blocks.slice(this.first);
    yield PacketTap.head;
    for (let from = 0; from < blocks.length; from += blocksInPart)
      yield Buffer.concat(blocks.slice(from, from + blocksInPart));
  }
}

/** Hands on to a recording while there is one, also what conversations say that were begun before it. */
export class SwitchedTap implements Tap {
  to: Recording | undefined;

  get listens(): boolean {
    return this.to !== undefined;
  }

  udp(from: Endpoint, to: Endpoint, data: Uint8Array): void {
    this.to?.udp(from, to, data);
  }

  remark(text: string): void {
    this.to?.remark(text);
  }

  tcp(client: Endpoint, server: Endpoint): TcpTap {
    let into = this.to;
    let conversation = into?.tcp(client, server);
    const now = (): TcpTap | undefined => {
      if (into !== this.to) {
        into = this.to;
        conversation = into?.tcp(client, server, true);
      }
      return conversation;
    };
    return {
      sent: (data) => now()?.sent(data),
      received: (data) => now()?.received(data),
      closed: () => now()?.closed(),
    };
  }
}
