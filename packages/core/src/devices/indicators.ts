import { shownText, type LightMeaning } from './light.js';

/** A light at a device, as somebody who stands before it sees it. */
export interface Indicator {
  /** As printed beside it. */
  name: string;
  colour: LightMeaning['colour'];
  /** Of the standard blink codes; counted pulses are `n pulses`. */
  pattern: 'steady' | 'flashing' | 'alternating' | `${number} pulses`;
  /** What it says. */
  means: string;
}

/** What a device knows of its network, as far as lights show it. */
export interface NetworkState {
  /** I/O connections that stand. */
  connections: number;
  /** One was lost, and none has been opened since. */
  timedOut: boolean;
  /** Another device has the same address. */
  conflict: boolean;
  linkUp: boolean;
  /** Its address; empty while it has none. */
  address: string;
  /** The controller's program runs. */
  run: boolean;
  powered: boolean;
  /** Revision that the device says it has. */
  majorRevision: number;
  minorRevision: number;
}

/** Module status, CIP Vol. 2, 9-4.3 (from memory). */
export function moduleStatus(health: 'good' | 'minor' | 'major', network: NetworkState): Indicator {
  const light = (colour: Indicator['colour'], pattern: Indicator['pattern'], means: string): Indicator => ({
    name: 'module',
    colour,
    pattern,
    means,
  });
  if (!network.powered) return light('off', 'steady', 'no power');
  if (health === 'major') return light('red', 'steady', 'a fault that it cannot end by itself');
  if (health === 'minor') return light('red', 'flashing', 'a fault that can be reset');
  if (network.connections > 0 && !network.run)
    return light('green', 'flashing', 'stand-by: the controller idles');
  return light('green', 'steady', 'in order');
}

/** Network status, CIP Vol. 2, 9-4.4 (from memory). */
export function networkStatus(network: NetworkState): Indicator {
  const light = (colour: Indicator['colour'], pattern: Indicator['pattern'], means: string): Indicator => ({
    name: 'network',
    colour,
    pattern,
    means,
  });
  if (!network.powered) return light('off', 'steady', 'no power');
  if (network.address === '') return light('off', 'steady', 'no address');
  if (network.conflict) return light('red', 'steady', 'another device has the same address');
  if (network.timedOut) return light('red', 'flashing', 'a connection has timed out');
  if (network.connections > 0) return light('green', 'steady', 'a connection is open');
  return light('green', 'flashing', 'has an address, no connection');
}

/** Link and activity of the port, as on most devices; common practice, no source. */
export function portLight({ powered, linkUp }: NetworkState): Indicator {
  if (!powered || !linkUp) return { name: 'link', colour: 'off', pattern: 'steady', means: 'no cable' };
  return { name: 'link', colour: 'green', pattern: 'flashing', means: 'traffic' };
}

/** A light in words: "flashing red – a connection has timed out". */
export const indicatorText = (light: Indicator): string => `${shownText(light)} – ${light.means}`;
