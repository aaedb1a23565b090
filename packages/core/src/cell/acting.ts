import { roleBehaviourOf } from '../devices/byRoles/list.js';
import type { RoleBehaviour } from '../devices/byRoles/roleBehaviour.js';
import { rolesOfFields } from '../layout/field.js';
import type { Device } from './model.js';

/**
 * How a device acts by the roles of its fields; undefined for one that acts by a kind of its own, and for one of which
 * no field has a role that its kind acts on.
 */
export function actingByRoles({
  standIn,
  kind,
  links: [link],
}: Pick<Device, 'standIn' | 'kind' | 'links'>): RoleBehaviour<unknown> | undefined {
  const behaviour = standIn ? undefined : roleBehaviourOf(kind);
  const acts =
    link &&
    behaviour &&
    rolesOfFields([...link.command.fields, ...link.feedback.fields]).some((r) => behaviour.acts.includes(r));
  return acts ? behaviour : undefined;
}
