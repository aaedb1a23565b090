import type { SafetyLogic, StatusBit } from './safetyLogic.js';
import type { Image } from '../layout/image.js';
import { signalsOf, type Signal } from '../layout/signals.js';

/** Where a status bit stands in the feedback image: by block, offset and bit. */

/** Byte of the image; undefined where there is no such block, or the image ends before. */
export function byteOf(
  { block, offset }: Pick<StatusBit, 'block' | 'offset'>,
  image: Image,
): number | undefined {
  const begin = block === '' ? 0 : image.numbering?.blocks.find(({ name }) => name === block)?.at;
  if (begin === undefined || begin + offset >= image.size) return undefined;
  return begin + offset;
}

/** The signal that has the bit, and which of its bits it is. */
export function signalAt(status: StatusBit, image: Image): { signal: Signal; bit: number } | undefined {
  const byte = byteOf(status, image);
  if (byte === undefined) return undefined;
  const at = byte * 8 + status.bit;
  const signal = signalsOf(image).find((s) => at >= s.at && at < s.at + s.bits);
  return signal && { signal, bit: at - signal.at };
}

/** As much of a device as its status bits stand in. */
export interface SafetyDevice {
  safety: SafetyLogic | null;
  links: readonly { feedback: Image }[];
}

/** The feedback image of a safety controller; undefined where it has no link. */
export const feedbackOf = ({ links }: Pick<SafetyDevice, 'links'>): Image | undefined => links[0]?.feedback;

/** The status bits of a device whose places its image has, with the byte of each. */
export function placedBits(device: SafetyDevice): { status: StatusBit; byte: number }[] {
  const image = feedbackOf(device);
  if (!image || !device.safety) return [];
  return device.safety.status.flatMap((status) => {
    const byte = byteOf(status, image);
    return byte === undefined ? [] : [{ status, byte }];
  });
}
