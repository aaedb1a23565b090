import { ethernetFrame, tcpFlags, tcpPacket, udpPacket, type Endpoint } from './packets.js';
import { fileHead, packetBlock } from './pcapng.js';

/** Takes note of what the originator's sockets send and receive. */
export interface Tap {
  /** Whether anything is noted; what sends often asks first. */
  readonly listens: boolean;
  udp(from: Endpoint, to: Endpoint, data: Uint8Array): void;
  /** Puts a remark on the next packet. */
  remark(text: string): void;
  /** Begins a TCP conversation; the returned functions note its bytes and its end. */
  tcp(client: Endpoint, server: Endpoint): TcpTap;
}

export interface TcpTap {
  sent(data: Uint8Array): void;
  received(data: Uint8Array): void;
  closed(): void;
}

/** A longer write is cut into segments of this size, as Ethernet would. */
const maxSegment = 1460;

/**
 * Makes the blocks of a capture file. It records at the sockets, which needs no rights: the payloads and their times
 * are real, the IP and TCP headers are made around them (docs/decisions/0003-capture-at-the-socket.md).
 */
export abstract class PacketTap implements Tap {
  readonly listens = true;
  private identification = 0;
  private remarks: string[] = [];

  /** What a file of these blocks begins with. */
  protected static readonly head = fileHead(
    'Fadenkreuz',
    'bench',
    'Recorded at the sockets of the originator; Ethernet, IP and TCP headers are made around the payloads.',
  );

  /** Takes the block of one packet. */
  protected abstract keep(block: Buffer): void;

  private note(packet: Buffer): void {
    this.keep(packetBlock(now(), ethernetFrame(packet), this.remarks));
    this.remarks = [];
  }

  remark(text: string): void {
    this.remarks.push(text);
  }

  udp(from: Endpoint, to: Endpoint, data: Uint8Array): void {
    this.note(udpPacket(from, to, (this.identification += 1), Buffer.from(data)));
  }

  /** `midway`: the conversation has begun before the recording, so no handshake is made. */
  tcp(client: Endpoint, server: Endpoint, midway = false): TcpTap {
    let sentBytes = 1;
    let receivedBytes = 1;
    const fromClient = (flags: number, data: Buffer = Buffer.alloc(0), sequence = sentBytes) =>
      this.note(
        tcpPacket(
          client,
          server,
          (this.identification += 1),
          { sequence, acknowledged: flags & tcpFlags.ack ? receivedBytes : 0, flags },
          data,
        ),
      );
    const fromServer = (flags: number, data: Buffer = Buffer.alloc(0), sequence = receivedBytes) =>
      this.note(
        tcpPacket(
          server,
          client,
          (this.identification += 1),
          { sequence, acknowledged: sentBytes, flags },
          data,
        ),
      );
    if (!midway) {
      fromClient(tcpFlags.syn, undefined, 0);
      fromServer(tcpFlags.syn | tcpFlags.ack, undefined, 0);
      fromClient(tcpFlags.ack);
    }
    const segments = (data: Uint8Array) =>
      Array.from({ length: Math.ceil(data.length / maxSegment) }, (_, i) =>
        Buffer.from(data.subarray(i * maxSegment, (i + 1) * maxSegment)),
      );
    return {
      sent: (data) => {
        for (const part of segments(data)) {
          fromClient(tcpFlags.push | tcpFlags.ack, part);
          sentBytes += part.length;
        }
      },
      received: (data) => {
        for (const part of segments(data)) {
          fromServer(tcpFlags.push | tcpFlags.ack, part);
          receivedBytes += part.length;
        }
      },
      closed: () => {
        fromClient(tcpFlags.fin | tcpFlags.ack);
        sentBytes += 1;
        fromServer(tcpFlags.fin | tcpFlags.ack);
        receivedBytes += 1;
        fromClient(tcpFlags.ack);
      },
    };
  }
}

/** Time since 1970 in ns, as fine as the clock is. */
const now = (): bigint =>
  BigInt(Math.round(performance.timeOrigin * 1e6)) + BigInt(Math.round(performance.now() * 1e6));

/** Notes nothing. */
export const noTap: Tap = {
  listens: false,
  udp: () => undefined,
  remark: () => undefined,
  tcp: () => ({ sent: () => undefined, received: () => undefined, closed: () => undefined }),
};
