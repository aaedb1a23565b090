import type { DriveChange, DriveFacts } from './driveFacts.js';
import type { Indicator, NetworkState } from './indicators.js';

/** What reaches a device between two steps. */
export interface Stimulus {
  /** Milliseconds since the last step. */
  elapsedMs: number;
  /** A controller owns the outputs. */
  owned: boolean;
  /** The point that its command belongs to. */
  point: number;
  /** The controller's program runs (run/idle header). */
  run: boolean;
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

/** How a device acts: state in, state out; its bytes come from and go to its points. */
export interface Behaviour<State> {
  /** The state after power-on. */
  start(): State;
  step(state: State, stimulus: Stimulus): State;
  /** Writes the bytes of a feedback point. */
  feedback(into: Uint8Array, point: number): void;
  /** How fast what it drives really goes, seen from outside; above 0 the way that was meant. */
  moves?(state: State): number;
  drive?: { facts: (state: State) => DriveFacts; change: (state: State, part: DriveChange) => State };
  faults: readonly DeviceFault<State>[];
  /** How bad it is, as the Identity object and the module indicator say. */
  health(state: State): 'good' | 'minor' | 'major';
  /** Lights beside module and network status. */
  lights?(state: State, network: NetworkState): Indicator[];
}
