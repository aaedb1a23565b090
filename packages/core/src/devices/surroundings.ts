import type { DeviceKind } from './kinds.js';

/** Something of the machine around a device that acts on it. */
export interface Quantity {
  name: string;
  title: string;
  unit: string;
}

const quantity = (name: string, title: string, unit = ''): Quantity => ({ name, title, unit });
const motorLoad = quantity('load', 'load of the motor, of its rated one');
const points: readonly Quantity[] = [];

/** What of the machine acts on devices of a kind; without it they act as on a test bench. */
const byKind: Readonly<Record<DeviceKind, readonly Quantity[]>> = {
  'variable-speed drive': [motorLoad],
  'soft starter': [motorLoad],
  'motor starter': [motorLoad],
  'servo axis': [quantity('load', 'what it moves', 'kg')],
  robot: [
    quantity('part', 'a part is in its gripper: 1, or 0'),
    quantity('gripper air', 'air reaches its gripper: 1, or 0'),
  ],
  'vision sensor': [quantity('part', 'a good part lies before it: 1, or 0')],
  'safety controller': [
    quantity('object position', 'lower edge of what is in its way', 'mm'),
    quantity('object size', 'size of what is in its way; 0 for nothing', 'mm'),
  ],
  weigher: [quantity('load', 'what lies on it', 'kg')],
  'IO-Link master': [quantity('pump speed', 'flow towards the sensors of its ports, from 0 to 1')],
  'identification reader': [quantity('tag', 'number of the tag before it; 0 for none')],
  'measuring sensor': [quantity('value', 'what it measures, in the unit of its field')],
  'valve terminal': points,
  marker: points,
  'process I/O': points,
  'remote I/O': points,
  'torque tool': points,
  other: points,
};

export const quantitiesOf = (kind: DeviceKind): readonly Quantity[] => byKind[kind];
