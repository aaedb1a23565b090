import type { Device } from '../cell/model.js';
import type { Code } from '../messages/facts.js';
import { finding, type Finding, type Severity } from '../messages/finding.js';
import { axisUnit } from '../motion/mechanics.js';
import { strayed } from '../motion/following.js';
import { planValue } from '../parameters/planValue.js';
import { turnedTwice } from '../parameters/turningCure.js';
import { figuresOf, type TrainFlaw, type TrainWarning } from '../motion/startUp.js';
import { figureText } from '../motion/trainRows.js';
import { eachDevice } from './rule.js';

/** What is wrong with drive trains. */

type FlawCode = Extract<Code, `train.${string}`>;
const wording: Readonly<
  Record<
    TrainWarning,
    {
      code: Exclude<FlawCode, 'train.nameplateLocked' | 'train.scaleStrayed' | 'train.turnedTwice'>;
      unit: string;
      severity: Severity;
    }
  >
> = {
  'inertia ratio': { code: 'train.inertiaRatio', unit: '', severity: 'warning' },
  'rms torque': { code: 'train.rmsTorque', unit: 'N·m', severity: 'error' },
  'peak torque': { code: 'train.peakTorque', unit: 'N·m', severity: 'error' },
  speed: { code: 'train.speed', unit: 'rpm', severity: 'error' },
  'field weakening': { code: 'train.fieldWeakening', unit: 'rpm', severity: 'notice' },
  coupling: { code: 'train.coupling', unit: 'N·m', severity: 'error' },
  brake: { code: 'train.brake', unit: 'N·m', severity: 'error' },
  'brake missing': { code: 'train.brakeMissing', unit: 'N·m', severity: 'warning' },
  'resistor missing': { code: 'train.resistorMissing', unit: 'J', severity: 'warning' },
  'resistor resistance': { code: 'train.resistorResistance', unit: 'Ω', severity: 'warning' },
  'resistor power': { code: 'train.resistorPower', unit: 'W', severity: 'warning' },
  'encoder overflow': { code: 'train.encoderOverflow', unit: 'of the axis', severity: 'error' },
  'modulo drifts': { code: 'train.moduloDrifts', unit: '', severity: 'error' },
  'units lose resolution': { code: 'train.unitsCoarse', unit: 'of the axis', severity: 'notice' },
};

/** A flaw of a train as a finding of its device. */
export function flawFinding(
  device: Pick<Device, 'id' | 'name' | 'train'>,
  { id, is, may }: TrainFlaw,
): Finding {
  const { code, unit: said, severity } = wording[id];
  const unit = said === 'of the axis' ? axisUnit(device.train?.output) : said;
  const facts = { device: device.name, is: figureText(is, unit), may: figureText(may, unit) };
  return finding(code, severity, { device: device.id }, facts);
}

/** A direction that is turned round in the drive, and in the scales once more. */
function twice(device: Device): Finding[] {
  const parameter = turnedTwice(device);
  if (!parameter) return [];
  const place = { device: device.id, parameter: parameter.id };
  const facts = { device: device.name, parameter: parameter.name };
  return [finding('train.turnedTwice', 'warning', place, facts, planValue(device, parameter, '0'))];
}

/** What the moves of a train ask too much of, and fields that follow it no more. */
export const trainsWrong = eachDevice((device) => {
  if (!device.train) return [];
  const fields = device.links.flatMap((link) => [...link.command.fields, ...link.feedback.fields]);
  return [
    ...(figuresOf(device.train, fields)?.flaws ?? []).map((flaw) => flawFinding(device, flaw)),
    ...twice(device),
    ...strayed(device).map(({ name, id }) =>
      finding(
        'train.scaleStrayed',
        'warning',
        { device: device.id, field: id },
        { device: device.name, field: name },
        {
          title: 'Take the scale of the train',
          edit: { edit: 'device.set', device: device.id, set: { train: device.train } },
        },
      ),
    ),
  ];
});
