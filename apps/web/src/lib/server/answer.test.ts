import { expect, test } from 'vitest';
import { boundedBytes } from './answer.js';

const mega = 1024 * 1024;
/** A body of so many MiB that ends only when it is let. */
function upload(megas: number) {
  let end: () => void = () => undefined;
  const ended = new Promise<void>((resolve) => (end = resolve));
  let left = megas;
  const body = new ReadableStream<Uint8Array>({
    pull: async (controller) => {
      if (left > 0) {
        left -= 1;
        controller.enqueue(new Uint8Array(mega));
        return;
      }
      await ended;
      controller.close();
    },
  });
  const request = new Request('http://127.0.0.1/', { method: 'POST', body, duplex: 'half' } as RequestInit);
  return { request, end: () => end(), read: () => left === 0 };
}

test('all bodies together are bounded; what has come makes room again', async () => {
  const first = upload(200);
  const second = upload(50);
  const received = [boundedBytes(first.request, 300 * mega), boundedBytes(second.request, 300 * mega)];
  await expect.poll(() => first.read() && second.read()).toBe(true);
  await expect(boundedBytes(upload(10).request, 300 * mega)).rejects.toMatchObject({ code: 'server.busy' });
  first.end();
  expect((await received[0]!).length).toBe(200 * mega);
  const third = upload(100);
  third.end();
  expect((await boundedBytes(third.request, 300 * mega)).length).toBe(100 * mega);
  second.end();
  await received[1];
});

test('one that is too large is refused, and keeps no room', async () => {
  for (let n = 0; n < 40; n += 1) {
    const large = upload(12);
    large.end();
    await expect(boundedBytes(large.request, 10 * mega)).rejects.toMatchObject({ code: 'file.tooLarge' });
  }
});
