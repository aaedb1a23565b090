import type { z } from 'zod';
import { LightMeaning, shownText, type LightOccasion } from './light.js';

/** A light at a device, as somebody who stands before it sees it. */
export interface Indicator {
  /** As printed beside it. */
  name: string;
  colour: LightMeaning['colour'];
  /** Of the standard blink codes; counted pulses are `n pulses`. */
  pattern: 'steady' | 'flashing' | 'alternating' | `${number} pulses`;
  /** What it says. */
  means: string;
  /** The state that it shows, where makers differ in how they show it. */
  when?: LightOccasion;
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

type State = Pick<Indicator, 'colour' | 'pattern' | 'means'>;
const state = (colour: State['colour'], pattern: State['pattern'], means: string): State => ({
  colour,
  pattern,
  means,
});

/** States of the lights that most devices have: CIP Vol. 2, 9-4.3 and 9-4.4 (from memory); link: common practice. */
const standard = {
  module: {
    dark: state('off', 'steady', 'no power'),
    major: state('red', 'steady', 'a fault that it cannot end by itself'),
    minor: state('red', 'flashing', 'a fault that can be reset'),
    standBy: state('green', 'flashing', 'stand-by: the controller idles'),
    good: state('green', 'steady', 'in order'),
  },
  network: {
    dark: state('off', 'steady', 'no power'),
    noAddress: state('off', 'steady', 'no address'),
    conflict: state('red', 'steady', 'another device has the same address'),
    timedOut: state('red', 'flashing', 'a connection has timed out'),
    open: state('green', 'steady', 'a connection is open'),
    none: state('green', 'flashing', 'has an address, no connection'),
  },
  link: {
    dark: state('off', 'steady', 'no cable'),
    traffic: state('green', 'flashing', 'traffic'),
    quiet: state('green', 'steady', 'a cable, and no traffic'),
  },
} as const;

/** Module status. */
export function moduleStatus(health: 'good' | 'minor' | 'major', network: NetworkState): Indicator {
  const { dark, standBy, ...byHealth } = standard.module;
  const idles = health === 'good' && network.connections > 0 && !network.run;
  return { name: 'module', ...(!network.powered ? dark : idles ? standBy : byHealth[health]) };
}

/** Network status. */
export function networkStatus(network: NetworkState): Indicator {
  const s = standard.network;
  const shown = !network.powered
    ? s.dark
    : network.address === ''
      ? s.noAddress
      : network.conflict
        ? s.conflict
        : network.timedOut
          ? s.timedOut
          : network.connections > 0
            ? s.open
            : s.none;
  return { name: 'network', ...shown };
}

/** Link and activity of the port. */
export const portLight = ({ powered, linkUp }: NetworkState): Indicator => ({
  name: 'link',
  ...(powered && linkUp ? standard.link.traffic : standard.link.dark),
});

/** The light of a device as somebody saw it who stood before it. */
export const SeenLight = LightMeaning.omit({ means: true });
export type SeenLight = z.infer<typeof SeenLight>;

/** The states that a device's lights can have, for a person to choose what he sees: those of its manual go first. */
export function lightStates(described: readonly LightMeaning[]): LightMeaning[] {
  const usual = Object.entries(standard).flatMap(([light, states]) =>
    Object.values(states).map((one): LightMeaning => ({ light, ...one })),
  );
  const key = (l: LightMeaning) => `${l.light.toLowerCase()} ${shownText(l)}`;
  const seen = new Set<string>();
  return [...described, ...usual].filter((l) => !seen.has(key(l)) && seen.add(key(l)));
}

/** A light that was seen, with what it says; undefined for one that nothing is known of. */
export function seenIndicator(seen: SeenLight, described: readonly LightMeaning[]): Indicator | undefined {
  const found = lightStates(described).find(
    (l) => l.light.toLowerCase() === seen.light.toLowerCase() && shownText(l) === shownText(seen),
  );
  return (
    found && {
      name: found.light.toLowerCase(),
      colour: found.colour,
      pattern: found.pattern as Indicator['pattern'],
      means: found.means,
    }
  );
}

/** A light in words: "flashing red – a connection has timed out". */
export const indicatorText = (light: Indicator): string => `${shownText(light)} – ${light.means}`;
