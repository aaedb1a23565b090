import { createSocket, type Socket as UdpSocket } from 'node:dgram';
import { createServer, type Server, type Socket } from 'node:net';
import { decode, encapsulation as enip, encode, Problem } from '@fadenkreuz/core/cip';
import type { Identity } from '@fadenkreuz/core';
import { bindUdp, closeUdp } from '../udp.js';

export interface ExplicitServerOptions {
  address: string;
  /** What ListIdentity answers. */
  identity: () => Identity & { serialNumber: number; status: number; state: number };
  /** Answers one unconnected CIP request; `from` is the originator's address. */
  route: (request: Uint8Array, from: string) => Uint8Array;
}

interface Session {
  id: number;
}

const { commands, encapsulationStatus: status, itemTypes } = enip;

/** A device keeps no more sessions than this; one more is refused (encapsulation status 2). */
const maxSessions = 32;

/**
 * The explicit side of a target: TCP and UDP port 44818, sessions, ListIdentity, ListServices, SendRRData
 * (CIP Vol. 2, chapter 2).
 */
export class ExplicitServer {
  private readonly tcp: Server;
  private readonly udp: UdpSocket = createSocket('udp4');
  private readonly sockets = new Set<Socket>();
  private lastSession = 0;

  constructor(private readonly options: ExplicitServerOptions) {
    this.tcp = createServer((socket) => this.serve(socket));
    this.udp.on('message', (message, from) => {
      const { frame } = enip.takeFrame(message);
      if (!frame) return;
      // Over UDP only the list commands are answered (Vol. 2, 2-3.2).
      const known: number[] = [commands.listIdentity, commands.listServices, commands.listInterfaces];
      if (!known.includes(frame.command)) return;
      const answer = this.answer(frame, undefined, from.address);
      if (answer) this.udp.send(enip.encodeFrame(answer), from.port, from.address);
    });
  }

  async open(): Promise<void> {
    const { address } = this.options;
    await new Promise<void>((resolve, reject) => {
      this.tcp.once('error', reject);
      this.tcp.listen(enip.explicitPort, address, resolve);
    });
    await bindUdp(this.udp, enip.explicitPort, address);
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await Promise.all([
      new Promise<void>((resolve) => (this.tcp.listening ? this.tcp.close(() => resolve()) : resolve())),
      closeUdp(this.udp),
    ]);
  }

  private serve(socket: Socket): void {
    if (this.sockets.size >= maxSessions) {
      socket.destroy();
      return;
    }
    this.sockets.add(socket);
    socket.setNoDelay(true);
    let held: Uint8Array = new Uint8Array();
    let session: Session | undefined;
    socket.on('error', () => socket.destroy());
    socket.on('close', () => this.sockets.delete(socket));
    socket.on('data', (data) => {
      held = held.length ? Buffer.concat([held, data]) : data;
      for (;;) {
        const { frame, rest } = enip.takeFrame(held);
        held = rest;
        if (!frame) return;
        if (frame.command === commands.unRegisterSession) {
          socket.end();
          return;
        }
        if (
          frame.command === commands.registerSession &&
          !session &&
          this.acceptable(frame) === status.success
        )
          session = { id: (this.lastSession += 1) };
        const answer = this.answer(frame, session, socket.remoteAddress ?? '');
        if (answer) socket.write(enip.encodeFrame(answer));
      }
    });
  }

  private acceptable(frame: enip.EncapsulationFrame): number {
    if (frame.data.length !== 4) return status.invalidLength;
    const { version } = decode(enip.registerSession, frame.data, 'RegisterSession');
    return version === 1 ? status.success : status.unsupportedRevision;
  }

  private answer(
    frame: enip.EncapsulationFrame,
    session: Session | undefined,
    from: string,
  ): enip.EncapsulationFrame | undefined {
    const reply = (data: Uint8Array): enip.EncapsulationFrame => ({ ...frame, status: status.success, data });
    const refuse = (code: number): enip.EncapsulationFrame => ({
      ...frame,
      status: code,
      data: new Uint8Array(),
    });
    switch (frame.command) {
      case commands.nop:
        return undefined;
      case commands.listIdentity:
        return reply(encode(enip.items, [{ type: itemTypes.identity, data: this.identityItem() }]));
      case commands.listServices:
        return reply(encode(enip.items, [{ type: itemTypes.services, data: servicesItem }]));
      case commands.listInterfaces:
        return reply(encode(enip.items, []));
      case commands.registerSession: {
        const verdict = this.acceptable(frame);
        // The highest version that is known comes back with a refusal (Vol. 2, 2-4.4.3).
        const body = encode(enip.registerSession, { version: 1, options: 0 });
        return { ...frame, session: session?.id ?? 0, status: verdict, data: body };
      }
      case commands.sendRRData:
        if (!session || frame.session !== session.id) return refuse(status.invalidSession);
        return this.explicit(frame, from, reply, refuse);
      case commands.sendUnitData:
        // Connected explicit messages need a class 3 connection, and this target opens none.
        return refuse(session && frame.session === session.id ? status.incorrectData : status.invalidSession);
      default:
        return refuse(status.unsupportedCommand);
    }
  }

  private explicit(
    frame: enip.EncapsulationFrame,
    from: string,
    reply: (data: Uint8Array) => enip.EncapsulationFrame,
    refuse: (code: number) => enip.EncapsulationFrame,
  ): enip.EncapsulationFrame {
    try {
      const body = decode(enip.rrData, frame.data, 'SendRRData');
      const message = enip.itemOf(body.items, itemTypes.unconnectedData);
      if (!message || body.interfaceHandle !== 0) return refuse(status.incorrectData);
      const answer = this.options.route(message, from);
      return reply(
        encode(enip.rrData, {
          interfaceHandle: 0,
          timeout: 0,
          items: [
            { type: itemTypes.nullAddress, data: new Uint8Array() },
            { type: itemTypes.unconnectedData, data: answer },
          ],
        }),
      );
    } catch (error) {
      if (error instanceof Problem && error.code === 'bytes.short') return refuse(status.incorrectData);
      throw error;
    }
  }

  private identityItem(): Uint8Array {
    const { address, identity } = this.options;
    const socket = {
      family: 2,
      port: enip.explicitPort,
      address: enip.addressNumber(address),
      zero: new Uint8Array(8),
    };
    return encode(enip.identityItem, { version: 1, socket, ...identity() });
  }
}

const servicesItem = encode(enip.serviceItem, {
  version: 1,
  capabilities: enip.serviceCapabilities,
  name: new TextEncoder().encode('Communications'),
});
