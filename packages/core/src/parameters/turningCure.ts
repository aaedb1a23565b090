import type { Device } from '../cell/model.js';
import type { Parameter } from '../devices/parameter.js';
import { roledParameters } from './nameplate.js';

/** What turns an axis round that goes against its sign. */
export interface TurningCure {
  /** The parameter of its direction, and what it is to be; undefined where it has none that can be written. */
  parameter: { parameter: Parameter; value: string } | undefined;
  /** Its scales follow a train: the sign can be turned there. */
  scale: boolean;
  byHand: string;
}

/** Turned round by a parameter of the drive, and by the scales of the fields once more: it goes as if by neither. */
export function turnedTwice({
  train,
  description,
}: Pick<Device, 'train' | 'description'>): Parameter | undefined {
  if (!train?.reversed || train.follows.length === 0) return undefined;
  const parameter = roledParameters(description.parameters).get('turning direction');
  const now = parameter?.planned ?? parameter?.initial;
  return now && Number(now) !== 0 ? parameter : undefined;
}

export function turningCure(device: Device): TurningCure {
  const parameter = roledParameters(device.description.parameters).get('turning direction');
  const now = parameter && (parameter.planned ?? parameter.initial ?? '0');
  const { labels = [] } = parameter ?? {};
  const other = labels.find(({ value }) => String(value) !== now && labels.length === 2);
  const value = other ? String(other.value) : now === '0' || now === null ? '1' : '0';
  return {
    parameter: parameter && parameter.access !== 'read' ? { parameter, value } : undefined,
    scale: (device.train?.follows.length ?? 0) > 0,
    byHand:
      device.kind === 'servo axis'
        ? 'Or mount the motor the other way round; never swap the phases of a servo motor: its encoder would not agree.'
        : 'Or change two phases of the motor, without power.',
  };
}
