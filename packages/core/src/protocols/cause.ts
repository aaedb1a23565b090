import { indicatorText, type Indicator } from '../devices/indicators.js';
import type { Symptoms } from './symptoms.js';

/** Something that would explain what is seen. */
export interface Cause {
  title: string;
  /** What speaks for it, as it was seen. */
  evidence: string[];
  /** What to look at, or do, next. */
  next: string;
  /** How well it fits; the list is in this order. */
  weight: number;
}

/** One cause and what speaks for it: nothing when it does not fit. Those of one protocol stand with it. */
export interface CauseRule {
  title: string;
  next: string;
  /** Evidence with the weight that it adds. */
  seen: (s: Symptoms) => [number, string][];
}

export const light = (s: Symptoms, name: string) => s.indicators.find((i) => i.name === name);
export const says = (indicator: Indicator) => `${indicator.name} light ${indicatorText(indicator)}`;
export const share = (part: number) => `${(part * 100).toFixed(part < 0.1 ? 1 : 0)} %`;
export const seconds = (ms: number) => (ms < 1000 ? `${Math.round(ms)} ms` : `${(ms / 1000).toFixed(1)} s`);
export const lost = (s: Symptoms) =>
  s.state === 'timed-out' || s.state === 'unreachable' || s.state === 'opening';
export const powered = (s: Symptoms) => light(s, 'module')?.colour !== 'off';
/** It is there, with power and cable, but what was asked over a connection was not answered in time. */
export const connectsOnly = (s: Symptoms) =>
  (s.reason?.facts as { connected?: boolean } | undefined)?.connected === true &&
  powered(s) &&
  light(s, 'link')?.colour !== 'off';
export const openFor = (s: Symptoms) => s.state === 'open' && s.expectedMs !== null;

/** Causes that each protocol recognises by answers of its own. */
export const anotherDevice = {
  title: 'Another device has this address',
  next: 'Read its nameplate and compare with the plan; then correct the plan, the address or the device.',
};
export const deviceBusy = {
  title: 'The device is busy',
  next: 'Close other connections to it, end its commissioning tool, or ask less often.',
};
