import type { SafetyLogic } from '../safety/safetyLogic.js';
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
    quantity('limit switch positive', 'its limit switch at the positive end is pressed: 1, or 0'),
    quantity('limit switch negative', 'its limit switch at the negative end is pressed: 1, or 0'),
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

/** What is done to the inputs of a safety controller, block by block; its first curtain has what its kind has. */
function inputQuantities({ blocks }: SafetyLogic): Quantity[] {
  const first = blocks.find(({ is }) => is === 'curtain');
  return blocks.flatMap((block): Quantity[] => {
    const { name } = block;
    switch (block.is) {
      case 'curtain':
        if (block === first) return [];
        return [
          quantity(`${name} position`, `lower edge of what is in the way of ${name}`, 'mm'),
          quantity(`${name} size`, `size of what is in the way of ${name}; 0 for nothing`, 'mm'),
        ];
      case 'door':
        return [quantity(name, `${name} is closed: 1, or 0`)];
      case 'emergency stop':
        return [quantity(name, `${name} is not pressed: 1, or 0`)];
      case 'button':
        return [quantity(name, `${name} is pressed: 1, or 0`)];
      case 'two-hand':
        return ['left', 'right'].map((hand) =>
          quantity(`${name} ${hand}`, `the ${hand} hand is on ${name}: 1, or 0`),
        );
      case 'mode':
        return [quantity(name, `where ${name} stands`)];
      default:
        return [];
    }
  });
}

/** What of the machine acts on a device: by its kind, and by what its safety logic reads. */
export const quantitiesOf = ({
  kind,
  safety,
}: {
  kind: DeviceKind;
  safety?: SafetyLogic | null;
}): readonly Quantity[] => (safety ? [...byKind[kind], ...inputQuantities(safety)] : byKind[kind]);
