import type { Role } from '../../layout/role.js';
import type { DeviceFault } from '../behaviour.js';
import type { Told } from './commands.js';
import type { RoleValues, Shown } from './roleImage.js';

/**
 * How devices of a kind act, on roles and not on bytes: one behaviour for all layouts, protocols and scalings. State
 * in, state out; time comes from outside.
 */
export interface RoleBehaviour<State> {
  /** What it is, for a person to read. */
  title: string;
  /** Without one of these, commanded or shown, it cannot act at all. */
  acts: readonly Role[];
  start(): State;
  step(state: State, told: Told): State;
  /** What it shows; numbers in the unit that the role's field has, where it is asked for. */
  shows(state: State, feedback: RoleValues): Partial<Record<Role, Shown>>;
  faults: readonly DeviceFault<State>[];
  health(state: State): 'good' | 'minor' | 'major';
}
