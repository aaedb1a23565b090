import { placeText, Problem, type LinkBase, type ParameterPlace } from '@fadenkreuz/core';
import type { Refusal } from '@fadenkreuz/core/devices';
import pLimit from 'p-limit';
import type { HeardFrames, HeardRequest } from '../capture/heardFrames.js';
import type { LinkEnds } from './ends.js';

/**
 * Requests beside the cyclic exchange: how the parameters of one device are read and written, whatever protocol carries
 * them. One request at a time and in order, because many devices mix up two at once. Both reject with
 * `parameter.refused`, whose `refusal` is neutral, with `parameter.noWay` for a place that the protocol does not have,
 * and with the socket's error.
 */
export interface ParameterAccess {
  /** The bytes of a value as the wire brings them; `size` is how many are expected where the place does not say it. */
  read(place: ParameterPlace, size: number): Promise<Uint8Array>;
  write(place: ParameterPlace, value: Uint8Array): Promise<void>;
  /**
   * The messages of the last request, as they stood on the wire; absent where the protocol has none. They hold until
   * the request behind the next one.
   */
  heard?(): HeardRequest;
  close(): Promise<void>;
}

/** What a protocol brings to it: a conversation, and how a place is asked for in it. */
export interface ParameterRequests<C> {
  /** Keeps the messages of its conversation. */
  frames?: HeardFrames;
  open: () => Promise<C>;
  /** Whether a request has not ended; false before what waits for it goes on. */
  busy: (client: C) => boolean;
  /** Undefined: the protocol has no such place. */
  read: (client: C, place: ParameterPlace, size: number) => Promise<Uint8Array> | undefined;
  write: (client: C, place: ParameterPlace, value: Uint8Array) => Promise<void> | undefined;
}

/** Opens its conversation with the first request, and anew after a loss. */
export function parameterAccess<C extends { closed: boolean; close: () => Promise<void> }>(
  { device }: Pick<LinkEnds<LinkBase>, 'device'>,
  { frames, open, busy, read, write }: ParameterRequests<C>,
): ParameterAccess {
  const inTurn = pLimit(1);
  let client: C | undefined;
  /** The last that left at once; waited for where it has not ended. */
  let underWay: Promise<unknown> | undefined;
  type Request<T, A> = (client: C, place: ParameterPlace, argument: A) => Promise<T> | undefined;
  const begin = <T, A>(of: C, request: Request<T, A>, place: ParameterPlace, argument: A): Promise<T> => {
    frames?.begin();
    const answer = request(of, place, argument);
    if (!answer) throw new Problem('parameter.noWay', { device: device.name, place: placeText(place) });
    return answer;
  };
  const ask = <T, A>(request: Request<T, A>, place: ParameterPlace, argument: A): Promise<T> => {
    // Where nothing is under way it leaves at once; whoever comes meanwhile stands in the queue.
    if (client && !client.closed && !busy(client) && inTurn.activeCount + inTurn.pendingCount === 0) {
      try {
        const answer = begin(client, request, place, argument);
        underWay = answer;
        return answer;
      } catch (error) {
        return Promise.reject(error);
      }
    }
    return inTurn(async () => {
      await underWay?.catch(() => undefined);
      if (!client || client.closed) client = await open();
      return begin(client, request, place, argument);
    });
  };
  return {
    read: (place, size) => ask(read, place, size),
    write: (place, value) => ask(write, place, value),
    ...(frames ? { heard: () => frames.last } : {}),
    close: async () => {
      inTurn.clearQueue();
      await client?.close();
      client = undefined;
    },
  };
}

/** The refusal of a request, as an error. */
export const refused = (
  { device }: Pick<LinkEnds<LinkBase>, 'device'>,
  place: ParameterPlace,
  refusal: Refusal,
  said: { says: string; cure: string },
): Problem =>
  new Problem('parameter.refused', { device: device.name, place: placeText(place), refusal, ...said });
