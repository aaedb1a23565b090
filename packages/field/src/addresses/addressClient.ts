import {
  askMessage,
  bootpMessage,
  decode,
  encode,
  hearAnswer,
  type Asking,
  type Given,
} from '@fadenkreuz/core/bootp';
import { Problem } from '@fadenkreuz/core';
import type { Socket } from 'node:dgram';
import type { Cable } from '../wire/cable.js';
import { bindUdp, closeUdp, udpSocket } from '../wire/udp.js';
import { bindFirst, clientPorts, loopbackBroadcast, serverPorts } from './bootpPorts.js';

export interface AddressAskerOptions {
  method: 'bootp' | 'dhcp';
  mac: Uint8Array;
  /** What it says that it is. */
  vendorClass: string;
  /** What makes its transaction numbers repeatable. */
  seed: number;
  cable: Cable;
  onGiven: (given: Given) => void;
}

/** ms from one question to the next: quicker than real devices, which begin with 4 s (RFC 2131, 4.1). */
const pauseMs = 500;

/** A stand-in without an address: asks by BOOTP or DHCP over loopback until it is given one. */
export class AddressClient {
  private asking: Asking;
  private listening: Socket | undefined;
  private readonly sending = udpSocket();
  private timer: NodeJS.Timeout | undefined;

  constructor(private readonly options: AddressAskerOptions) {
    const { method, mac, seed, vendorClass } = options;
    this.asking = { method, mac, transaction: seed >>> 0, vendorClass, offer: undefined };
  }

  /** Rejects with the socket's error when no port can be had. */
  async open(): Promise<void> {
    const { socket } = await bindFirst(clientPorts, loopbackBroadcast, true);
    this.listening = socket;
    await bindUdp(this.sending, 0, '127.0.0.1');
    this.sending.setBroadcast(true);
    const hear = (message: Uint8Array) => this.hear(message);
    socket.on('message', (message) => this.options.cable.carry('in', message, hear));
    this.ask();
    this.timer = setInterval(() => this.ask(), pauseMs);
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    await Promise.all([this.sending, this.listening].map((s) => s && closeUdp(s)));
  }

  private ask(): void {
    const message = encode(bootpMessage, askMessage(this.asking));
    this.options.cable.carry('out', message, (sent) => {
      for (const port of serverPorts) this.sending.send(sent, port, loopbackBroadcast);
    });
  }

  private hear(message: Uint8Array): void {
    try {
      const { asking, given } = hearAnswer(this.asking, decode(bootpMessage, message, 'BOOTP answer'));
      const offered = asking.offer && !this.asking.offer;
      this.asking = asking;
      if (given) {
        clearInterval(this.timer);
        this.options.onGiven(given);
      } else if (offered) this.ask();
    } catch (error) {
      // Whatever else is sent to this port is no answer.
      if (!(error instanceof Problem)) throw error;
    }
  }
}
