import { clientPort, serverPort } from '@fadenkreuz/core/bootp';
import type { Socket } from 'node:dgram';
import { bindUdp, closeUdp, udpSocket } from '../wire/udp.js';

/** Everybody in 127.0.0.0/8: on the bench nothing leaves it. */
export const loopbackBroadcast = '127.255.255.255';

/** A port below 1024 that may not be had is replaced by the one 1000 higher. */
const replacement = 1000;
export const serverPorts = [serverPort, serverPort + replacement] as const;
export const clientPorts = [clientPort, clientPort + replacement] as const;

/** A socket on the first of these ports that may be bound. Rejects with the socket's error. */
export async function bindFirst(
  ports: readonly number[],
  address: string,
  shared: boolean,
): Promise<{ socket: Socket; port: number }> {
  for (const [i, port] of ports.entries()) {
    const socket = udpSocket(shared);
    try {
      await bindUdp(socket, port, address);
      return { socket, port };
    } catch (error) {
      await closeUdp(socket);
      if ((error as NodeJS.ErrnoException).code !== 'EACCES' || i === ports.length - 1)
        throw Object.assign(error as Error, { port });
    }
  }
  throw new Error('there is no port to bind');
}
