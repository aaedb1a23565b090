import { createSocket, type Socket } from 'node:dgram';

/**
 * A UDP socket that only takes numbers as addresses: nothing is looked up, so a packet leaves at once and not a turn of
 * the event loop later.
 */
export const udpSocket = (shared = false): Socket =>
  createSocket({
    type: 'udp4',
    reuseAddr: shared,
    lookup: (address, _options, done) => done(null, address, 4),
  });

/**
 * Bytes that the system keeps for a socket while the process is held up. The usual 208 KiB are full after some 250
 * small packets, since each counts with all that the system keeps beside it: at 50,000 packets a second that is a halt
 * of 5 ms. The system may give less.
 */
const receiveBuffer = 4 * 1024 * 1024;

/** Binds; rejects with the socket's error. Later errors (an unreachable peer) are no reason to end anything. */
export async function bindUdp(socket: Socket, port: number, address: string): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    socket.once('error', reject);
    socket.bind(port, address, () => {
      socket.off('error', reject);
      socket.setRecvBufferSize(receiveBuffer);
      resolve();
    });
  });
  socket.on('error', () => undefined);
}

/** Closes; a socket that is closed already is left alone. */
export async function closeUdp(socket: Socket): Promise<void> {
  await new Promise<void>((resolve) => {
    try {
      socket.close(() => resolve());
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'ERR_SOCKET_DGRAM_NOT_RUNNING') throw error;
      resolve();
    }
  });
}
