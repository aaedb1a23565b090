import type { ElementForm } from './elementForm.js';
import { identifierOf } from '../entries/identifiers.js';
import type { ByteOrder } from './field.js';
import type { Image } from './image.js';
import type { DirectCounting, Notation, NumberedBlock, Numbering } from './notation.js';
import { byteOffset, swappedByte, valueBitAt } from './byteOrder.js';
import { standardNotations } from './notations.js';
import { signalAtBit } from './placement.js';
import { countsRegisters, inRuns, registerAt, type RegisterRun, type RunAge } from './registerRuns.js';
import { signalsInside, type Signal } from './signals.js';
import { pathOf } from './variables.js';

/**
 * Addresses of both sides, both ways. Bits of an image count from 0 at bit 0 of the device's byte 0. The device's
 * output is the controller's input: a feedback image lies in the controller's input area (%I), a command image in its
 * output area (%Q). Where a gateway swaps the bytes of each word, the controller sees them swapped.
 */
export interface AddressScene {
  controller: ElementForm & { notation: string; direct: DirectCounting | null };
  /** The cell's own notations. */
  notations: readonly Notation[];
  device: { name: string };
  image: Image;
  /** The runs of registers that the image is made of, where it is. */
  runs?: readonly RegisterRun[] | undefined;
  /** What of the image is worked out from the ages of these runs. */
  ages?: readonly RunAge[] | undefined;
}

export interface BothSides {
  controller: {
    /** The side's own word for this direction. */
    side: 'input' | 'output';
    /** In the controller's notation, such as fb[7].%X12 (partial access, IEC 61131-3:2013, 6.6.1.2). */
    text: string;
    /** The unit alone, such as fb[7]. */
    elementText: string;
    /**
     * Direct address of the bit, such as %IX527.4 (IEC 61131-3:2013, table 16); empty while the controller's way to
     * count is not chosen.
     */
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
    /** The unit alone, without the name of its block. */
    unitText: string;
    /** The block that it is counted in, where the manual has such. */
    block: string | undefined;
    /** Byte and bit, whatever the notation. */
    plain: string;
  };
}

const defaultNumbering: Numbering = {
  notation: 'byte',
  before: 0,
  slot: 0,
  subslot: 0,
  signals: [],
  blocks: [],
};
/** The address of what is in none of the registers that are asked for. */
export const noRegister = 'no register';
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

/**
 * A notation that counts as the controller does, with the controller's choice put in: words are the least unit that a
 * bit is counted in there. Undefined while nothing is chosen, and for bytes where words are counted.
 */
export function resolved(notation: Notation, { controller: { direct } }: AddressScene): Notation | undefined {
  if (notation.counts !== 'controller') return notation;
  if (!direct) return undefined;
  const { counts } = direct;
  if (counts !== 'words') return { ...notation, counts };
  if (notation.unitBits !== 8) return notation;
  return notation.pattern.includes('}.{bit}') ? { ...notation, unitBits: 16 } : undefined;
}

/** Number of unit 0 of the image (no whole one where no unit begins there), and what the number rises by. */
export function counting(notation: Notation, scene: AddressScene): { base: number; step: number } {
  const bytes = bitsOfUnit(notation, scene) / 8;
  const step = { bytes, units: 1, controller: bytes / 2 }[notation.counts];
  const before = notation.side === 'device' ? (scene.image.numbering?.before ?? 0) * step : 0;
  const area = notation.from === 'area' ? (areaByte(scene) / bytes) * step : 0;
  return { base: notation.first + before + area, step };
}

/** The byte of the controller's input or output area that an image begins at. */
export function areaByte({ image: { start, direction }, controller: { direct } }: AddressScene): number {
  if (!direct) return start;
  return start + (direction === 'command' ? direct.outputFrom : direct.inputFrom);
}

/** The block that counts a bit anew in the device's manual; undefined before the first, and where no units count. */
export function blockAt({ image }: AddressScene, notation: Notation, bit: number): NumberedBlock | undefined {
  if (notation.side !== 'device' || notation.unitBits === 'field' || notation.ranges) return undefined;
  const blocks = image.numbering?.blocks ?? [];
  let found: NumberedBlock | undefined;
  for (const block of blocks) if (block.at * 8 <= bit && block.at >= (found?.at ?? 0)) found = block;
  return found;
}

interface Place {
  unit: number | string;
  bit: number;
  /** The unit is this one bit. */
  single?: boolean;
}

function placeOf(form: Notation, scene: AddressScene, bit: number): Place | undefined {
  if (form.unitBits === 'field') return fieldPlace(scene, bit);
  if (scene.runs && countsRegisters(form)) return registerAt(form, scene.runs, bit);
  if (form.side === 'controller' && scene.runs && !inRuns(scene.runs, bit)) return undefined;
  const notation = resolved(form, scene);
  if (!notation) return undefined;
  const block = blockAt(scene, notation, bit);
  const own = notation.side === 'controller' ? acrossSwap(scene, bit) : bit - 8 * (block?.at ?? 0);
  const { base: start, step } = counting(notation, scene);
  const base = block ? block.first : start;
  if (!Number.isInteger(base)) return undefined;
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

// An image is never changed, only replaced; every row of the tape asks.
const knownPaths = new WeakMap<Image, { signals: readonly Signal[]; names: readonly string[] }>();

/** How controller code reaches the signals of an image (layout/variables.ts). */
export function pathNames(image: Image): { signals: readonly Signal[]; names: readonly string[] } {
  const found = knownPaths.get(image);
  if (found) return found;
  const signals = signalsInside(image);
  const paths = { signals, names: signals.map((signal) => pathOf(image, signal)) };
  knownPaths.set(image, paths);
  return paths;
}

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
  const text = withoutBlock(notation, scene, bit, unitOnly);
  const block = text === undefined ? undefined : blockAt(scene, notation, bit);
  return block ? `${block.name}: ${text}` : text;
}

function withoutBlock(
  notation: Notation,
  scene: AddressScene,
  bit: number,
  unitOnly: boolean,
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
  const nowhere = scene.runs && !inRuns(scene.runs, bit) ? noRegister : undefined;
  const controllerNote = (notation: Notation, unitOnly = false) =>
    writeAddress(notation, scene, bit, unitOnly) ?? writeAddress(element, scene, bit, unitOnly) ?? noRegister;
  const direct = (id: string, unitOnly = false) =>
    writeAddress(notationOf(scene, id, 'controller'), scene, bit, unitOnly) ?? '';
  return {
    controller: {
      side: command ? 'output' : 'input',
      text: controllerNote(own),
      elementText: controllerNote(own.unitBits === 'field' ? element : own, true),
      direct: direct('direct-bit'),
      directElement: direct(directElement[controller.elementBits], true),
    },
    device: {
      side: command ? 'input' : 'output',
      byte: bit >> 3,
      bit: bit & 7,
      text: writeAddress(far, scene, bit) ?? nowhere ?? plain,
      block: blockAt(scene, far, bit)?.name,
      unitText: withoutBlock(far, scene, bit, true) ?? nowhere ?? `byte ${bit >> 3}`,
      plain,
    },
  };
}

/** Standard notations that only make sense for some links. */
const onlyFor: Record<string, (scene: AddressScene) => boolean> = {
  register: ({ runs }) => runs !== undefined,
  holding: ({ runs }) => runs !== undefined,
  input: ({ runs }) => runs !== undefined,
  reference: ({ runs }) => runs !== undefined,
  slot: ({ image }) => image.numbering !== null && image.numbering.slot > 0,
  // Bytes and double words of registers are counted by nobody.
  byte: ({ runs }) => runs === undefined,
  dword: ({ runs }) => runs === undefined,
};

/**
 * A bit in every notation that has an address for it and fits its link: register numbers where it has registers, slots
 * where it has slots; the chosen ones and the cell's own always.
 */
export function everyAddress(scene: AddressScene, bit: number): { notation: Notation; text: string }[] {
  const chosen = [deviceNotation(scene).id, controllerNotation(scene).id];
  return notationsOf(scene).flatMap((notation) => {
    const fits = onlyFor[notation.id.split('-')[0]!];
    if (fits && !chosen.includes(notation.id) && !fits(scene)) return [];
    const text = writeAddress(notation, scene, bit);
    return text === undefined ? [] : [{ notation, text }];
  });
}
