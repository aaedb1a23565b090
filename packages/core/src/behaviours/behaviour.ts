import type { Field } from '../cell/field.js';
import type { Direction } from '../cell/image.js';
import type { Identity } from '../cell/model.js';

/** What a device kind offers as an assembly: its own truth, whatever was planned in a cell. */
export interface AssemblySpec {
  instance: number;
  use: Direction | 'configuration';
  /** Bytes. */
  size: number;
  fields: Field[];
}

/** What reaches a device between two steps. */
export interface Stimulus {
  /** Milliseconds since the last step. */
  elapsedMs: number;
  /** The command image; undefined while no controller owns the outputs. */
  command: Uint8Array | undefined;
  /** The controller's program runs (run/idle header). */
  run: boolean;
}

/** How a kind of device acts: state in, state out. Time and bytes come from outside. */
export interface Behaviour<State> {
  /** What it is, for a list to choose from. */
  title: string;
  identity: Identity;
  assemblies: readonly AssemblySpec[];
  /** The state after power-on; the seed makes its disturbances repeatable. */
  start(seed: number): State;
  /** Takes over configuration data; an empty one keeps what the device has. */
  configure(state: State, data: Uint8Array): State;
  step(state: State, stimulus: Stimulus): State;
  /** Writes the feedback image. */
  feedback(state: State, into: Uint8Array): void;
}
