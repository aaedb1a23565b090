import type { ElementForm } from './elementForm.js';
import { uniqueIdentifiers, identifierOf } from '../entries/identifiers.js';
import type { ByteOrder } from './field.js';
import type { Image } from './image.js';
import type { Notation, Numbering } from './notation.js';
import { byteOffset, swappedByte, valueBitAt } from './byteOrder.js';
import { standardNotations } from './notations.js';
import { signalAtBit } from './placement.js';
import { countsRegisters, registerAt, type RegisterRun } from './registerRuns.js';
import { signalsInside } from './signals.js';

/**
 * Addresses of both sides, both ways. Bits of an image count from 0 at bit 0 of the device's byte 0. The device's
 * output is the controller's input: a feedback image lies in the controller's input area (%I), a command image in its
 * output area (%Q). Where a gateway swaps the bytes of each word, the controller sees them swapped.
 */
export interface AddressScene {
  controller: ElementForm & { notation: string };
  /** The cell's own notations. */
  notations: readonly Notation[];
  device: { name: string };
  image: Image;
  /** The runs of registers that the image is made of, where it is. */
  runs?: readonly RegisterRun[] | undefined;
}

export interface BothSides {
  controller: {
    /** The side's own word for this direction. */
    side: 'input' | 'output';
    element: number;
    bit: number;
    /** In the controller's notation, such as fb[7].%X12 (partial access, IEC 61131-3:2013, 6.6.1.2). */
    text: string;
    /** The unit alone, such as fb[7]. */
    elementText: string;
    /** Direct address of the bit, such as %IX527.4 (IEC 61131-3:2013, table 16), bytes counted through the area. */
    direct: string;
    /** Direct address of the element, such as %IW526. */
    directElement: string;
  };
  device: {
    side: 'input' | 'output';
    byte: number;
    bit: number;
    /** In the notation of the device's manual. */
    text: string;
    /** The unit alone. */
    unitText: string;
    /** Byte and bit, whatever the notation. */
    plain: string;
  };
}

const defaultNumbering: Numbering = { notation: 'byte', before: 0, slot: 0, subslot: 0, signals: [] };
const directElement = {
  8: 'direct-byte',
  16: 'direct-word',
  32: 'direct-dword',
  64: 'direct-lword',
} as const;

/** The standard notations and the cell's own. */
export const notationsOf = (cell: { notations: readonly Notation[] }): readonly Notation[] =>
  cell.notations.length ? [...standardNotations, ...cell.notations] : standardNotations;

/** The notation with this id, or the plain one of its side when there is none. */
function notationOf(scene: AddressScene, id: string, side: Notation['side']): Notation {
  const found = notationsOf(scene).find((n) => n.id === id && n.side === side);
  return found ?? standardNotations.find((n) => n.id === (side === 'device' ? 'byte' : 'element'))!;
}

export const deviceNotation = (scene: AddressScene): Notation =>
  notationOf(scene, scene.image.numbering?.notation ?? (scene.runs ? 'reference-6' : 'byte'), 'device');
export const controllerNotation = (scene: AddressScene): Notation =>
  notationOf(scene, scene.controller.notation, 'controller');

/** The controller's view of a bit of the device, and back: the swap is its own inverse. */
export const acrossSwap = ({ image }: AddressScene, bit: number) =>
  image.swapped ? swappedByte(bit >> 3, image.size) * 8 + (bit & 7) : bit;

export const orderOf = (notation: Notation, { image, controller }: AddressScene): ByteOrder =>
  notation.order === 'image'
    ? (image.order ?? 'little')
    : notation.order === 'element'
      ? controller.elementOrder
      : notation.order;

export const bitsOfUnit = (notation: Notation, scene: AddressScene): number =>
  notation.unitBits === 'element' ? scene.controller.elementBits : Number(notation.unitBits);

/** Number of unit 0 of the image, and what the number rises by. */
export function counting(notation: Notation, scene: AddressScene): { base: number; step: number } {
  const bytes = bitsOfUnit(notation, scene) / 8;
  const step = notation.counts === 'bytes' ? bytes : 1;
  const before = notation.side === 'device' ? (scene.image.numbering?.before ?? 0) * step : 0;
  const start = notation.from === 'area' ? (scene.image.start / bytes) * step : 0;
  return { base: notation.first + before + Math.floor(start), step };
}

interface Place {
  unit: number | string;
  bit: number;
  /** The unit is this one bit. */
  single?: boolean;
}

function placeOf(notation: Notation, scene: AddressScene, bit: number): Place | undefined {
  if (notation.unitBits === 'field') return fieldPlace(scene, bit);
  if (scene.runs && countsRegisters(notation)) return registerAt(notation, scene.runs, bit);
  const own = notation.side === 'controller' ? acrossSwap(scene, bit) : bit;
  const { base, step } = counting(notation, scene);
  if (notation.ranges) {
    const range = (scene.image.numbering ?? defaultNumbering).signals.find(
      (r) => r.point - 1 <= own && own < r.point - 1 + r.count,
    );
    return range && { unit: range.first + own - (range.point - 1), bit: 0 };
  }
  const width = bitsOfUnit(notation, scene);
  if (width === 1) return { unit: base + own * step, bit: 0 };
  const bytes = width / 8;
  const unit = Math.floor(own / width);
  const significance = byteOffset(orderOf(notation, scene), (own >> 3) % bytes, bytes);
  const number = base + unit * step;
  if (notation.last !== null && number > notation.last) return undefined;
  return { unit: number, bit: significance * 8 + (own & 7) + notation.firstBit };
}

/** The names that controller code has for the signals of an image. */
export const pathNames = (image: Image) => {
  const signals = signalsInside(image);
  return { signals, names: uniqueIdentifiers(signals.map((s) => s.name)) };
};

function fieldPlace({ image }: AddressScene, bit: number): Place | undefined {
  const { signals, names } = pathNames(image);
  const signal = signalAtBit(signals, bit);
  if (!signal) return undefined;
  const own = valueBitAt(signal, bit);
  return own === undefined ? undefined : { unit: names[signals.indexOf(signal)]!, bit: own };
}

export function filled(notation: Notation, { image, device }: AddressScene): string {
  const { slot, subslot } = image.numbering ?? defaultNumbering;
  const values: Record<string, string> = {
    area: image.direction === 'command' ? 'Q' : 'I',
    array: image.direction === 'command' ? 'cmd' : 'fb',
    device: identifierOf(device.name),
    slot: String(slot),
    subslot: String(subslot),
  };
  return notation.pattern.replace(/\{(area|array|device|slot|subslot)\}/g, (_, key: string) => values[key]!);
}

const unitText = (unit: number | string, form: string | undefined) =>
  form === 'hex'
    ? Number(unit).toString(16).toUpperCase().padStart(4, '0')
    : String(unit).padStart(Number(form ?? 0), '0');

/** What stands before {bit}: a dot, `.%X` or a word. */
export const bitTail = /(\s*[.·]?\s*(?:%X|bit)?\s*)\{bit\}/;

/** The address of a bit in a notation; undefined where it has none, as between two signal ranges. */
export function writeAddress(
  notation: Notation,
  scene: AddressScene,
  bit: number,
  unitOnly = false,
): string | undefined {
  const place = placeOf(notation, scene, bit);
  if (!place) return undefined;
  const whole = unitOnly || place.single || (notation.unitBits === 'field' && isSingle(scene, bit));
  const pattern = filled(notation, scene);
  return (whole ? pattern.replace(bitTail, '') : pattern)
    .replace(/\{unit(?::(\w+))?\}/g, (_, form?: string) => unitText(place.unit, form))
    .replace('{bit}', String(place.bit));
}

const isSingle = ({ image }: AddressScene, bit: number) => signalAtBit(signalsInside(image), bit)?.bits === 1;

/** The addresses of bit `bit` on both sides. */
export function bothSides(scene: AddressScene, bit: number): BothSides {
  const { image, controller } = scene;
  const command = image.direction === 'command';
  const element = notationOf(scene, 'element', 'controller');
  const own = controllerNotation(scene);
  const far = deviceNotation(scene);
  const plain = `byte ${bit >> 3} · bit ${bit & 7}`;
  const inElement = placeOf(element, scene, bit)!;
  const controllerNote = (notation: Notation, unitOnly = false) =>
    writeAddress(notation, scene, bit, unitOnly) ?? writeAddress(element, scene, bit, unitOnly)!;
  return {
    controller: {
      side: command ? 'output' : 'input',
      element: Number(inElement.unit),
      bit: inElement.bit,
      text: controllerNote(own),
      elementText: controllerNote(own.unitBits === 'field' ? element : own, true),
      direct: controllerNote(notationOf(scene, 'direct-bit', 'controller')),
      directElement: controllerNote(
        notationOf(scene, directElement[controller.elementBits], 'controller'),
        true,
      ),
    },
    device: {
      side: command ? 'input' : 'output',
      byte: bit >> 3,
      bit: bit & 7,
      text: writeAddress(far, scene, bit) ?? plain,
      unitText: writeAddress(far, scene, bit, true) ?? `byte ${bit >> 3}`,
      plain,
    },
  };
}

/** A bit in every notation that has an address for it. */
export function everyAddress(scene: AddressScene, bit: number): { notation: Notation; text: string }[] {
  return notationsOf(scene).flatMap((notation) => {
    const text = writeAddress(notation, scene, bit);
    return text === undefined ? [] : [{ notation, text }];
  });
}
