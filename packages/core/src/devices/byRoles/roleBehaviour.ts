import type { Role } from '../../layout/role.js';
import type { DeviceFault } from '../behaviour.js';
import type { RoleValues } from './roleImage.js';

/** What reaches a device between two steps. */
export interface Told {
  elapsedMs: number;
  /** A controller owns its outputs, and runs its program; otherwise the values are those of rest. */
  commanded: boolean;
  values: RoleValues;
}

/**
 * How devices of a kind act, on roles and not on bytes: one behaviour for all layouts, protocols and scalings. State
 * in, state out; time comes from outside.
 */
export interface RoleBehaviour<State> {
  /** What it is, for a person to read. */
  title: string;
  /** Without one of these it cannot act at all. */
  acts: readonly Role[];
  start(): State;
  step(state: State, told: Told): State;
  /** What it shows; numbers in the unit that the role's field has (`unit`), where it is asked for. */
  shows(state: State, unit: (role: Role) => string): Partial<Record<Role, number | boolean>>;
  faults: readonly DeviceFault<State>[];
  health(state: State): 'good' | 'minor' | 'major';
}
