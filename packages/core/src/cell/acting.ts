import { roleBehaviourOf } from '../devices/byRoles/list.js';
import type { RoleBehaviour } from '../devices/byRoles/roleBehaviour.js';
import { saysRoles } from '../devices/description.js';
import { rolesOfFields } from '../layout/field.js';
import type { Device } from './model.js';

/**
 * How a device acts by the roles of its fields: of those that its description lays out, else of those that are planned.
 * Undefined where none of them is one that its kind acts on.
 */
export function actingByRoles({
  kind,
  description,
  links: [link],
}: Pick<Device, 'kind' | 'description' | 'links'>): RoleBehaviour<unknown> | undefined {
  const behaviour = link && roleBehaviourOf(kind);
  if (!behaviour) return undefined;
  const fields = saysRoles(description)
    ? description.points.flatMap((point) => point.fields ?? [])
    : [...link.command.fields, ...link.feedback.fields];
  return rolesOfFields(fields).some((role) => behaviour.acts.includes(role)) ? behaviour : undefined;
}
