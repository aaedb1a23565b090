import type { Role } from '../../layout/role.js';
import type { DeviceFault } from '../behaviour.js';
import type { DriveChange, DriveFacts } from '../driveFacts.js';
import type { Indicator, NetworkState } from '../indicators.js';
import type { Design, Told } from './commands.js';
import type { RoleImage, RoleValues, Shown } from './roleImage.js';

/** What of a plan turns the way of an axis round: 1, or −1. */
export interface Turned {
  /** Of the scale of its position or speed. */
  scale: number;
}

/** What a device shows, by role. */
export type ShownRoles = Partial<Record<Role, Shown>>;

/**
 * How devices of a kind act, on roles and not on bytes: one behaviour for all layouts, protocols and scalings. State
 * in, state out; time comes from outside.
 */
export interface RoleBehaviour<State> {
  /** What it is, for a person to read. */
  title: string;
  /** Without one of these, commanded or shown, it cannot act at all. */
  acts: readonly Role[];
  /** The state after power-on. */
  start(): State;
  step(state: State, told: Told): State;
  /** What it shows; numbers in the unit that the role's field has, where it is asked for. */
  shows(state: State, feedback: RoleValues): ShownRoles;
  /** Puts into its feedback bytes what stands at a place of its own, whatever is laid out there. */
  places?(state: State, feedback: Uint8Array, design: Design): void;
  /** Writes into its configuration data what the factory sets; without, they begin with zeros. */
  presets?(settings: RoleImage, feedback: RoleValues): void;
  /**
   * How fast what it drives really goes, as somebody sees it who stands there; above 0 the way that was meant. In the
   * units of its fields.
   */
  moves?(state: State, turned: Turned): number;
  /** What the objects of a CIP drive say (CIP Vol. 1, 5-28 to 5-30), where devices of the kind have them. */
  drive?: { facts: (state: State) => DriveFacts; change: (state: State, part: DriveChange) => State };
  faults: readonly DeviceFault<State>[];
  health(state: State): 'good' | 'minor' | 'major';
  /** Lights beside module and network status. */
  lights?(state: State, network: NetworkState): Indicator[];
}
