import type { DeviceKind } from './kinds.js';

/** Something of the machine around a device that acts on it. */
export interface Quantity {
  name: string;
  title: string;
  unit: string;
}

const quantity = (name: string, title: string, unit = ''): Quantity => ({ name, title, unit });
const motorLoad = quantity('load', 'load of the motor, of its rated one');
const nothing: readonly Quantity[] = [];
/** What the analogue inputs of a device measure, in the units of their fields. */
const measured: readonly Quantity[] = Array.from({ length: 8 }, (_, i) =>
  quantity(`measured ${i + 1}`, `what its analogue input ${i + 1} measures, in the unit of the field`),
);

/** What of the machine acts on devices of a kind; without it they act as on a test bench. */
const byKind: Readonly<Record<DeviceKind, readonly Quantity[]>> = {
  'variable-speed drive': [motorLoad],
  'soft starter': [motorLoad],
  'motor starter': [motorLoad],
  'servo axis': [
    quantity('load', 'what it moves', 'kg'),
    quantity('starts at', 'where it stands when it is switched on, in the unit of its position'),
  ],
  robot: [
    quantity('part', 'a part lies where it picks up: 1, or 0'),
    quantity('gripper air', 'air reaches its gripper: 1, or 0'),
  ],
  'vision sensor': [quantity('part', 'a good part lies before it: 1, or 0')],
  'safety controller': [
    quantity('object position', 'lower edge of what is in its way, above the lowest beam', 'mm'),
    quantity('object size', 'size of what is in its way; 0 for nothing', 'mm'),
  ],
  weigher: [quantity('load', 'what lies on it', 'kg')],
  'IO-Link master': measured,
  'identification reader': [quantity('tag', 'number of the tag before it; 0 for none')],
  'measuring sensor': [quantity('value', 'what it measures, in the unit of its field')],
  'process I/O': measured,
  'remote I/O': measured,
  'valve terminal': nothing,
  marker: nothing,
  'torque tool': nothing,
  other: nothing,
};

export const quantitiesOf = (kind: DeviceKind): readonly Quantity[] => byKind[kind];
