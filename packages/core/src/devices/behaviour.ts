import type { Field } from '../layout/field.js';
import type { RegisterTable } from '../layout/registerTables.js';
import type { LossReaction, PointUse } from './description.js';
import type { Identity } from './identity.js';
import type { DriveChange, DriveFacts } from './driveFacts.js';
import type { ParameterOf } from './parameterAccess.js';
import type { Indicator, NetworkState } from './indicators.js';

/**
 * What a device kind offers as an assembly, or as a run of registers: its own truth, whatever was planned in a cell.
 */
export interface AssemblySpec {
  /** Assembly instance; for registers a number of our own. */
  instance: number;
  /** What its manual calls it, where there are several of one use. */
  title?: string;
  use: PointUse;
  /** Bytes. */
  size: number;
  fields: readonly Field[];
  /** Where its bytes stand in the tables of a Modbus device. */
  registers?: { table: RegisterTable; start: number };
}

/** What reaches a device between two steps. */
export interface Stimulus {
  /** Milliseconds since the last step. */
  elapsedMs: number;
  /** The command image; undefined while no controller owns the outputs. */
  command: Uint8Array | undefined;
  /** The assembly that the command image belongs to. */
  instance: number;
  /** The controller's program runs (run/idle header). */
  run: boolean;
  /** What of the machine around it acts on it, by the names in surroundings.ts; undefined where nothing says it. */
  met: (quantity: string) => number | undefined;
}

/** Something that goes wrong inside a device. */
export interface DeviceFault<State> {
  id: string;
  title: string;
  /** What makes it go away. */
  reset: string;
  inject: (state: State) => State;
  /** What ends the cause; what the device then still needs is said by `reset`. */
  clear: (state: State) => State;
}

/** How a kind of device acts: state in, state out. Time, bytes and the machine around it come from outside. */
export interface Behaviour<State> {
  /** What it is, for a list to choose from. */
  title: string;
  identity: Identity;
  /** What only its protocol has (the offer of protocols/NAME/link.ts); checked when it becomes a description. */
  offer: { protocol: string; [entry: string]: unknown };
  /** What its outputs do on loss, where that is known. */
  loss?: LossReaction | null;
  assemblies: readonly AssemblySpec[];
  /** The state after power-on; the seed makes its disturbances repeatable. */
  start(seed: number): State;
  /** Takes over configuration data; an empty one keeps what the device has. */
  configure(state: State, data: Uint8Array): State;
  /** Writes the configuration that it has; a device without has none to read. */
  settings?(state: State, into: Uint8Array): void;
  step(state: State, stimulus: Stimulus): State;
  /** Writes the bytes of a feedback assembly. */
  feedback(state: State, into: Uint8Array, instance: number): void;
  parameters?: readonly ParameterOf<State>[];
  drive?: { facts: (state: State) => DriveFacts; change: (state: State, part: DriveChange) => State };
  faults: readonly DeviceFault<State>[];
  /** How bad it is, as the Identity object and the module indicator say. */
  health(state: State): 'good' | 'minor' | 'major';
  /** Lights beside module and network status. */
  lights?(state: State, network: NetworkState): Indicator[];
  /** What the module light says when nothing is wrong, where it differs from the standard, by revision. */
  moduleLight?(state: State, network: NetworkState): Indicator | undefined;
}
