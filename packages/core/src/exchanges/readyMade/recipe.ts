import type { Device } from '../../cell/model.js';
import type { Role } from '../../layout/role.js';
import { Builder } from '../builder.js';
import type { Exchange, Order, Precondition, Variable } from '../../cell/exchange.js';

/**
 * Ready-made exchanges: each is made of the roles that a device has, and may be edited afterwards. Common practice, no
 * source, where nothing else is said.
 */
export interface ReadyMade {
  id: string;
  title: string;
  /** Whether a device has what it needs. */
  fits(device: Device): boolean;
  make(device: Device, newId: () => string): Exchange;
}

export interface Recipe {
  id: string;
  title: string;
  /** All of the command image, and one of the feedback image. */
  commands: readonly Role[];
  shows: readonly Role[];
  /** Further conditions on the device. */
  also?: (b: Builder) => boolean;
  variables?: (b: Builder) => Variable[];
  preconditions?: (b: Builder) => Precondition[];
  build: (b: Builder) => void;
}

export const number = (name: string, given: number): Variable => ({
  name,
  type: 'number',
  given,
  result: false,
});
export const text = (name: string): Variable => ({ name, type: 'text', given: '', result: false });
export const result = (name: string, type: Variable['type'], given: Variable['given']): Variable => ({
  ...{ name, type, given, result: true },
});

/** What starts and stops take: longest time until a device says it, ms. */
export const startMs = 3000;
export const rampMs = 30_000;
export const answerMs = 1000;
export const moveMs = 60_000;
export const resultMs = 3000;

export const notFaulted = (b: Builder): Precondition[] =>
  b.waits({ faulted: false }).map((condition) => ({
    condition,
    reason: `${b.device.name} is faulted: reset it first.`,
  }));

/** Bits that let the network command, before anything is started. */
export const released = (b: Builder): Order[] =>
  b.orders({
    ...{ stop: false, 'quick stop': false, hold: false, enable: true, 'network control': true },
    ...{ 'network reference': true, 'load power': true, permissive: true },
  });
export const runningBit = (b: Builder) =>
  b.firstShown('running', 'runs forward', 'program running', 'enabled');
export const startBit = (b: Builder) => b.firstCommand('start', 'forward', 'cycle start');
export const isDrive = (b: Builder) => !b.commands('program number') && !b.commands('position setpoint');

export const variable = (name: string) => ({ variable: name, plus: 0 });
