/** Memory for a message that a socket is to send: a socket wraps any other kind once more. */
export const allocate = (count: number): Buffer => Buffer.allocUnsafe(count);
