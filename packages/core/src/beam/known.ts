import { RoleImage } from '../devices/byRoles/roleImage.js';
import type { Setting } from '../devices/byRoles/commands.js';
import type { Cell, Device } from '../cell/model.js';
import type { Image } from '../layout/image.js';
import type { Role } from '../layout/role.js';
import { identifierOf } from '../entries/identifiers.js';
import { partsOf } from '../machine/machine.js';
import { compareParameters } from '../parameters/compare.js';
import type { Quantities } from './ownConditions.js';

/** What parameters of a device are set to, by role, as far as they were read from it; values by id, as hex pairs. */
export function settingsRead(
  { description }: Pick<Device, 'description'>,
  read: ReadonlyMap<string, string>,
): (role: Role, number?: number) => Setting | undefined {
  const withRole = description.parameters.filter((p) => p.role && read.has(p.id));
  const compared = compareParameters(withRole, { device: read });
  return (role, number = 1) => {
    const found = compared.find(
      ({ parameter: { role: own } }) => own?.is === role && (own.number ?? 1) === number,
    );
    const value = found?.values.device;
    if (!found || !value || !('hex' in value)) return undefined;
    const label = found.parameter.labels.find((l) => String(l.value) === value.raw)?.text;
    const plain = Number(value.raw);
    return Number.isNaN(plain)
      ? undefined
      : { value: plain, unit: found.parameter.unit, ...(label === undefined ? {} : { label }) };
  };
}

/** The values that conditions of somebody's own may name: `device.role` and `device.field`, of images as they are. */
export function quantitiesOfCell(
  { devices }: Pick<Cell, 'devices'>,
  bytesOf: (image: Image) => Uint8Array | undefined,
): Quantities {
  return (name) => {
    const [owner, what] = partsOf(name);
    const device = devices.find((d) => identifierOf(d.name) === owner);
    for (const link of device?.links ?? [])
      for (const image of [link.feedback, link.command]) {
        const bytes = bytesOf(image);
        if (!bytes) continue;
        const byRole = new RoleImage(image);
        byRole.take(bytes);
        const value = byRole.valueOf(what);
        if (value !== undefined) return value;
      }
    return undefined;
  };
}
