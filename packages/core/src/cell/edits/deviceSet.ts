import { deviceById } from '../find.js';
import { Device } from '../model.js';
import type { DriveTrain } from '../../motion/driveTrain.js';
import { Problem } from '../../messages/problem.js';
import { withFollowedScales } from '../../motion/following.js';
import { withoutStaleApproval } from '../../safety/approval.js';
import { changed, changesOf, editKind, partId } from './editKind.js';
import { withDevice } from './parts.js';
import { renamed } from './renamed.js';

/** What was entered, with what follows from it: scales of fields, an approval whose content has changed. */
function followed(device: Device, set: Partial<Device>): Device {
  const next = { ...device, ...set };
  if (set.safety !== undefined) next.safety = withoutStaleApproval(device.safety, set.safety);
  return set.train === undefined ? next : withFollowedScales(next);
}

/** What a motor's own nameplate said stays until somebody uncouples it. Throws `train.nameplateLocked`. */
function refuseLocked({ name, train }: Device, next: DriveTrain): void {
  const [was, is] = [train?.motor, next.motor];
  if (was?.from !== 'nameplate' || is?.from !== 'nameplate') return;
  const parts = Object.keys(was) as (keyof typeof was)[];
  const part = parts.find((key) => was[key] !== null && was[key] !== is[key] && key !== 'model');
  if (part) throw new Problem('train.nameplateLocked', { device: name, entry: part });
}

/** Entries of a device. */
export const deviceSet = editKind(
  'device.set',
  { device: partId, set: changesOf(Device, 'links', 'description') },
  {
    apply: (cell, { device, set }) => {
      const before = deviceById(cell, device);
      const { name } = before;
      if (set.train) refuseLocked(before, set.train as DriveTrain);
      const draft = withDevice(cell, device, (d) => followed(d, set as Partial<Device>));
      return typeof set.name === 'string'
        ? { ...draft, machine: renamed(cell.machine, name, set.name) }
        : draft;
    },
    title: (cell, { device, set }) => `change ${changed(set)} of ${deviceById(cell, device).name}`,
  },
);
