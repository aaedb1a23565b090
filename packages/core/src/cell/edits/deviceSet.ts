import { entered } from '../../devices/description.js';
import { behaviours } from '../../devices/list.js';
import { descriptionByHand } from '../description.js';
import { descriptionByBehaviour } from '../descriptionByBehaviour.js';
import { deviceById } from '../find.js';
import { Device } from '../model.js';
import { changed, changesOf, editKind, partId } from './editKind.js';
import { withDevice } from './parts.js';
import { renamed } from './renamed.js';

/** Entries of a device. */
export const deviceSet = editKind(
  'device.set',
  { device: partId, set: changesOf(Device, 'links', 'description') },
  {
    apply: (cell, { device, set }) => {
      const { name } = deviceById(cell, device);
      const draft = withDevice(cell, device, (d) => describedAnew(d, { ...d, ...set }));
      return typeof set.name === 'string'
        ? { ...draft, machine: renamed(cell.machine, name, set.name) }
        : draft;
    },
    title: (cell, { device, set }) => `change ${changed(set)} of ${deviceById(cell, device).name}`,
  },
);

/**
 * Where nothing but the behaviour on the bench, or nobody, described a device, another behaviour describes it. A
 * describer's word stays.
 */
function describedAnew(before: Device, device: Device): Device {
  const { standIn, description, links } = device;
  if (standIn === before.standIn || !ownWord(before)) return device;
  return {
    ...device,
    // What stands in for it says that it is what was planned: of a device without a describer nobody knows better.
    description: {
      ...(standIn ? { ...descriptionByBehaviour(standIn, links), identity: null } : descriptionByHand(links)),
      ...entered(description),
    },
  };
}

const ownWord = ({ standIn, description: { origin } }: Device): boolean =>
  origin.from === 'hand' ||
  (origin.from === 'table' && standIn !== null && origin.title === behaviours[standIn].title);
