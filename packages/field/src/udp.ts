import type { Socket } from 'node:dgram';

/** Binds; rejects with the socket's error. Later errors (an unreachable peer) are no reason to end anything. */
export async function bindUdp(socket: Socket, port: number, address: string): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    socket.once('error', reject);
    socket.bind(port, address, () => {
      socket.off('error', reject);
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
