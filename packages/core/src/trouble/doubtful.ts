import type { Field } from '../layout/field.js';
import type { Image } from '../layout/image.js';
import type { Device } from '../cell/model.js';
import { codecOf } from '../layout/codec.js';
import { isNumber, readsOf } from '../layout/fieldTypes.js';
import { orderDoubt } from '../layout/orderSight.js';
import type { Doubtful } from './causes.js';

/**
 * A value of a device that is measured, not counted or coded, and whose place is wide: one at the end of it cannot be
 * right.
 */
export const measuredField = (device: Device): Field | undefined =>
  device.links
    .flatMap(({ feedback }) => feedback.fields)
    .find((field) => field.bits >= 16 && field.type !== 'STRING' && (field.scale ?? field.decimals));

/** Words by which fields and labels call what stops a machine for safety; common practice, no source. */
const stopWords = /emergency|\be-?stop|protective|safety|guard|light curtain/i;

/** Normally closed signals of a feedback image that stop the machine and act now: released they are 1. */
export function actingStops(image: Image, bytes: Uint8Array): string[] {
  const codec = codecOf(image);
  if (bytes.length < codec.bytes) return [];
  codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  return codec.signals.flatMap((signal, i) => {
    if (!signal.normallyClosed || signal.bits !== 1) return [];
    const words = [signal.name.replaceAll('_', ' '), signal.note, ...signal.labels.map((l) => l.text)];
    const stops = signal.safety || words.some((text) => stopWords.test(text));
    return stops && codec.readingAt(i).acts ? [signal.name] : [];
  });
}

/**
 * Values of a feedback image that cannot be right: outside their limits, marked as no measurement, or at the end of
 * their type.
 */
export function doubtfulValues(image: Image, bytes: Uint8Array): Doubtful[] {
  const codec = codecOf(image);
  if (bytes.length < codec.bytes) return [];
  codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  return codec.signals.flatMap((signal, i): Doubtful[] => {
    const reading = codec.readingAt(i);
    const { special, beyond, text } = reading;
    const order = orderDoubt(image, signal, bytes, reading);
    if (order) {
      const { now, better } = order;
      const why = `it reads ${now.text}; read ${better.order} it would be ${better.text}`;
      return [{ field: signal.name, why, order: better.order }];
    }
    if (special && special !== 'no reading') return [{ field: signal.name, why: special }];
    if (beyond) return [{ field: signal.name, why: `${text} ${signal.unit} lies ${beyond} its limit` }];
    // A measured value at the very end of a wide type is an overflow more often than a measurement.
    const measured = isNumber(signal) && (signal.scale || signal.decimals) && signal.bits >= 16;
    if (!measured || readsOf(signal) === 'float') return [];
    const maximum = readsOf(signal) === 'signed' ? 2 ** (signal.bits - 1) - 1 : 2 ** signal.bits - 1;
    return codec.numberAt(i) === maximum
      ? [{ field: signal.name, why: `${text} ${signal.unit} is the largest number that its type can hold` }]
      : [];
  });
}
