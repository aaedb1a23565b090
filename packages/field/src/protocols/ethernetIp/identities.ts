import { Problem } from '@fadenkreuz/core';
import { decode, encapsulation as enip, type IdentityFacts } from '@fadenkreuz/core/ethernet-ip';
import type { Reach } from '../../wire/reach.js';
import { bindUdp, closeUdp, udpSocket } from '../../wire/udp.js';

/** One device that answered ListIdentity, and where from. */
export interface IdentityAnswer extends IdentityFacts {
  at: string;
}

export interface IdentityQuestion {
  /** Asked one by one. */
  addresses: readonly string[];
  /** Everybody behind each of these is asked at once. */
  broadcasts: readonly string[];
  reach: Reach;
  onAnswer: (answer: IdentityAnswer) => void;
  onAsked: (count: number) => void;
  /** How long answers are waited for after the last question, ms. */
  patienceMs?: number;
  signal: AbortSignal;
}

/** Questions that leave in one go, and the pause between two goes, ms: a switch of a small machine takes them all. */
const burst = 16;
const burstPauseMs = 5;
/**
 * Devices wait for a random time of up to this before they answer a broadcast, ms (CIP Vol. 2, 2-4.2.2: in the sender
 * context).
 */
const answerWithinMs = 500;

const question = enip.encodeFrame({
  ...enip.request(enip.commands.listIdentity, 0),
  contextLow: answerWithinMs,
});

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Asks for identities over UDP (CIP Vol. 2, 2-4.2), by address and by broadcast; ends by itself. */
export async function askIdentities(asked: IdentityQuestion): Promise<void> {
  const {
    addresses,
    broadcasts,
    reach,
    onAnswer,
    onAsked,
    signal,
    patienceMs = answerWithinMs + 300,
  } = asked;
  const socket = udpSocket();
  await bindUdp(socket, 0, '0.0.0.0');
  socket.setBroadcast(true);
  socket.on('message', (message, { address }) => {
    for (const identity of identitiesIn(message)) onAnswer({ ...identity, at: address });
  });
  try {
    // Nobody on the way: a device that is not there is no reason to stop.
    const send = (address: string) => socket.send(question, enip.explicitPort, address, () => undefined);
    for (const address of broadcasts) {
      reach.require(address);
      send(address);
    }
    for (let i = 0; i < addresses.length && !signal.aborted; i += burst) {
      const some = addresses.slice(i, i + burst);
      for (const address of some) {
        reach.require(address);
        send(address);
      }
      onAsked(some.length);
      await pause(burstPauseMs);
    }
    if (!signal.aborted) await pause(patienceMs);
  } finally {
    await closeUdp(socket);
  }
}

/** The devices in one answer; none when it is no answer that can be read. */
function identitiesIn(message: Uint8Array): IdentityFacts[] {
  try {
    const { frame } = enip.takeFrame(message);
    if (frame?.command !== enip.commands.listIdentity || frame.status !== 0) return [];
    return enip
      .readItems(frame.data)
      .filter(({ type }) => type === enip.itemTypes.identity)
      .map(({ data }) => decode(enip.identityItem, data, 'identity item'));
  } catch (error) {
    if (error instanceof Problem) return [];
    throw error;
  }
}
