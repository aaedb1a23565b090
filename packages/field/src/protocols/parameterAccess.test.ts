import { expect, test } from 'vitest';
import { parameterAccess } from './parameterAccess.js';

const place = { way: 'register', table: 'holding', start: 1 } as const;

/** An access whose requests end when they are told to; a request of size 0 fails while it is made. */
function begun() {
  const ends: ((bytes: Uint8Array) => void)[] = [];
  let ended = 0;
  const client = { closed: false, close: () => Promise.resolve() };
  const access = parameterAccess({ device: { name: 'weigher_b7' } } as never, {
    open: () => Promise.resolve(client),
    busy: () => ended < ends.length,
    read: (_, __, size) => {
      if (size === 0) throw new RangeError('no size');
      return new Promise<Uint8Array>((resolve, reject) =>
        ends.push((bytes) => {
          ended += 1;
          if (bytes.length > 0) resolve(bytes);
          else reject(new Error('no answer'));
        }),
      );
    },
    write: () => undefined,
  });
  return { access, ends, turn: () => new Promise((resolve) => setImmediate(resolve)) };
}

test('one request at a time, whoever asks; with nothing under way it leaves at once', async () => {
  const { access, ends, turn } = begun();
  const first = access.read(place, 1);
  await turn();
  ends[0]!(Uint8Array.of(1));
  expect(await first).toEqual(Uint8Array.of(1));
  const second = access.read(place, 1);
  expect(ends).toHaveLength(2);
  const third = access.read(place, 1);
  await turn();
  expect(ends).toHaveLength(2);
  ends[1]!(Uint8Array.of(2));
  expect(await second).toEqual(Uint8Array.of(2));
  await turn();
  ends[2]!(Uint8Array.of(3));
  expect(await third).toEqual(Uint8Array.of(3));
});

test('what fails while it is made is refused like any other, and holds nobody up', async () => {
  const { access, ends, turn } = begun();
  await expect(access.read(place, 0)).rejects.toThrow('no size');
  await expect(access.read(place, 0)).rejects.toThrow('no size');
  await expect(access.write(place, Uint8Array.of(1))).rejects.toMatchObject({ code: 'parameter.noWay' });
  const after = access.read(place, 1);
  await turn();
  ends[0]!(Uint8Array.of(4));
  expect(await after).toEqual(Uint8Array.of(4));
});

test('who waits goes on where the request before has failed', async () => {
  const { access, ends, turn } = begun();
  const first = access.read(place, 1);
  await turn();
  ends[0]!(Uint8Array.of(1));
  await first;
  const second = access.read(place, 1);
  const third = access.read(place, 1);
  ends[1]!(new Uint8Array());
  await expect(second).rejects.toThrow('no answer');
  await turn();
  ends[2]!(Uint8Array.of(3));
  expect(await third).toEqual(Uint8Array.of(3));
});
