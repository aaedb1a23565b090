import { Problem } from '@fadenkreuz/core';
import {
  classes,
  encapsulation as enip,
  encode,
  interfaceConfiguration,
  logical,
  services,
  startUp,
  statusText,
  u32,
} from '@fadenkreuz/core/ethernet-ip';
import { ExplicitClient } from './explicitClient.js';
import { attributePath, readNetworkSettings } from './networkSettings.js';
import type { Reach } from '../../wire/reach.js';

export interface AddressOrder {
  /** Where the device is reached now. */
  at: string;
  /** What it is to have, as the plan writes it, and where it will then be reached. */
  address: string;
  then: string;
  mask: string;
  gateway: string | null;
  reach: Reach;
}

/** How long a device may take to come back at its new address, ms, and the pause between two looks. */
const comesBackWithinMs = 20_000;
const lookMs = 300;
/** Bit 6 of attribute 2: a change counts from the next start only (CIP Vol. 2, 5-3.2.2.2). */
const changeNeedsReset = 0x40;

const refused = (at: string, step: string, reason: string) =>
  new Problem('address.notSet', { at, step, reason });
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

async function writeAttribute(
  client: ExplicitClient,
  at: string,
  attribute: number,
  data: Uint8Array,
  step: string,
) {
  const answer = await client.request({
    service: services.setAttributeSingle,
    path: attributePath(classes.tcpIpInterface, attribute),
    data,
  });
  if (answer.status !== 0) throw refused(at, step, statusText(answer.status, answer.extended).means);
}

/**
 * Gives a device its address over the wire: start-up method "stored" first, so that it asks nobody any more, then the
 * settings themselves, then a restart where it needs one (TCP/IP Interface object, attributes 3 and 5; Identity object,
 * Reset), and looks whether it comes back there. Returns what was done, in words. Throws `address.notSet` with the step
 * that failed.
 */
export async function setAddress(order: AddressOrder): Promise<string[]> {
  const { at, address, then, mask, gateway, reach } = order;
  const done: string[] = [];
  const client = await ExplicitClient.open({ address: at, reach }).catch((cause: Error) => {
    throw refused(at, 'it was asked for a session', cause.message);
  });
  try {
    await writeAttribute(client, at, 3, encode(u32, startUp.stored), 'it was told to keep its address');
    done.push('it asks no server for an address any more');
    const settings = {
      address: enip.addressNumber(address),
      mask: enip.addressNumber(mask),
      gateway: gateway === null ? 0 : enip.addressNumber(gateway),
      nameServer: 0,
      secondNameServer: 0,
      domain: '',
    };
    await writeAttribute(client, at, 5, encode(interfaceConfiguration, settings), 'the address was written');
    done.push(`${address} with mask ${mask} is stored`);
    const abilities = await client.request({
      service: services.getAttributeSingle,
      path: attributePath(classes.tcpIpInterface, 2),
      data: new Uint8Array(),
    });
    if (abilities.status === 0 && (abilities.data[0] ?? 0) & changeNeedsReset) {
      const reset = await client.request({
        service: services.reset,
        path: [logical('class', classes.identity), logical('instance', 1)],
        data: Uint8Array.of(0),
      });
      if (reset.status !== 0)
        throw refused(at, 'it was restarted', statusText(reset.status, reset.extended).means);
      done.push('it was restarted');
    }
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw refused(at, 'it was written to', (error as Error).message);
  } finally {
    await client.close().catch(() => undefined);
  }
  await comesBack(order);
  done.push(`it answers at ${address}`);
  return done;

  async function comesBack(wanted: AddressOrder): Promise<void> {
    const until = performance.now() + comesBackWithinMs;
    while (performance.now() < until) {
      await pause(lookMs);
      const settings = await readNetworkSettings({ address: then, reach }).catch(() => undefined);
      if (settings?.addressFrom === 'stored') return;
    }
    throw refused(wanted.at, `it was looked for at ${address}`, 'nothing answers there');
  }
}

/** Lets a device keep the address that it has: only the start-up method is written. Throws `address.notSet`. */
export async function stopAsking(at: string, reach: Reach): Promise<void> {
  const client = await ExplicitClient.open({ address: at, reach }).catch((cause: Error) => {
    throw refused(at, 'it was asked for a session', cause.message);
  });
  try {
    await writeAttribute(client, at, 3, encode(u32, startUp.stored), 'it was told to keep its address');
  } finally {
    await client.close();
  }
}
