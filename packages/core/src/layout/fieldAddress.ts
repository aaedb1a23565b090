import {
  acrossSwap,
  areaByte,
  bitsOfUnit,
  bothSides,
  deviceNotation,
  noRegister,
  writeAddress,
  type AddressScene,
} from './address.js';
import { chunksOf } from './elementChunks.js';
import type { Signal } from './signals.js';

/** Where a whole field stands, as a person or a program asks for it there. */
export interface FieldAddress {
  /** In the controller's notation: a bit, a part of an element, an element, or the first and the last of several. */
  controller: string;
  /**
   * Direct address (IEC 61131-3:2013, table 16): %IX526.4, %IB526, %IW526, %ID528, or the first and the last unit;
   * empty while the controller's way to count is not chosen.
   */
  direct: string;
  /** In the notation of the device's manual. */
  device: string;
}

/** Letters of the sizes, of direct addresses and of partial access (IEC 61131-3:2013, 6.5.5 and 6.6.1.2). */
const sizes: Readonly<Record<number, string>> = { 8: 'B', 16: 'W', 32: 'D', 64: 'L' };

const span = (first: string, last: string) => (first === last ? first : `${first}..${last}`);

/** The addresses of a signal: a field of 16 bits is a word there, not the bit that it begins with. */
export function fieldAddress(scene: AddressScene, signal: Signal): FieldAddress {
  const first = bothSides(scene, signal.at);
  if (first.controller.text === noRegister)
    return { controller: noRegister, direct: '', device: first.device.text };
  if (signal.bits === 1)
    return { controller: first.controller.text, direct: first.controller.direct, device: first.device.text };
  const last = bothSides(scene, signal.at + signal.bits - 1);
  return {
    controller: inElements(scene, signal, first.controller.elementText, last.controller.elementText),
    direct: directly(scene, signal) ?? span(first.controller.direct, last.controller.direct),
    device: atDevice(scene, signal) ?? span(first.device.text, last.device.text),
  };
}

function inElements(scene: AddressScene, signal: Signal, first: string, last: string): string {
  const { elementBits } = scene.controller;
  const chunks = chunksOf(signal, scene.image, scene.controller);
  const [only] = chunks;
  if (chunks.length !== 1 || first !== last) return span(first, last);
  const { elementBit, count } = only!;
  if (count === elementBits) return first;
  const letter = elementBit % count === 0 ? sizes[count] : undefined;
  return letter
    ? `${first}.%${letter}${elementBit / count}`
    : `${first}.%X${elementBit}..%X${elementBit + count - 1}`;
}

/** Undefined for bits that fill none of the units that the controller counts. */
function directly(scene: AddressScene, { at, bits }: Signal): string | undefined {
  const { counts } = scene.controller.direct ?? {};
  if (!counts) return '';
  if (at % 8 !== 0 || bits % 8 !== 0) return undefined;
  const area = scene.image.direction === 'command' ? 'Q' : 'I';
  const bytes = Array.from({ length: bits / 8 }, (_, i) => acrossSwap(scene, at + 8 * i) >> 3);
  const [low, high] = [Math.min(...bytes), Math.max(...bytes)].map((byte) => areaByte(scene) + byte);
  const step = { bytes: 1, units: bits / 8, words: 2 }[counts];
  const letter = high! - low! === bits / 8 - 1 && bits / 8 >= step ? sizes[bits] : undefined;
  if (letter && low! % step === 0) return `%${area}${letter}${low! / step}`;
  if (counts !== 'words') return span(`%${area}B${low}`, `%${area}B${high}`);
  return low! % 2 === 0 && high! % 2 === 1
    ? span(`%${area}W${low! / 2}`, `%${area}W${(high! - 1) / 2}`)
    : undefined;
}

/** Undefined for bits that fill no whole units of the manual. */
function atDevice(scene: AddressScene, { at, bits }: Signal): string | undefined {
  const notation = deviceNotation(scene);
  const width = notation.unitBits === 'field' || notation.ranges ? 0 : bitsOfUnit(notation, scene);
  if (width <= 1 || at % width !== 0 || bits % width !== 0) return undefined;
  const [first, last] = [at, at + bits - 1].map((bit) => writeAddress(notation, scene, bit, true));
  return first && last && span(first, last);
}
