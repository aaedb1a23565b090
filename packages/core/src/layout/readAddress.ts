import type { Notation, Numbering } from './notation.js';
import { Problem } from '../messages/problem.js';
import {
  acrossSwap,
  bitsOfUnit,
  blockAt,
  bitTail,
  bothSides,
  controllerNotation,
  counting,
  deviceNotation,
  filled,
  notationsOf,
  orderOf,
  pathNames,
  resolved,
  writeAddress,
  type AddressScene,
} from './address.js';
import { byteOffset, placeOfValueBit } from './byteOrder.js';
import { standardNotations } from './notations.js';
import { bitOfRegister, countsRegisters } from './registerRuns.js';
import type { Signal } from './signals.js';

/** The bit of a numbered signal; undefined where no range of the image has that number. */
export function bitOfSignal(numbering: Pick<Numbering, 'signals'> | null | undefined, number: number) {
  const range = numbering?.signals.find((r) => r.first <= number && number < r.first + r.count);
  return range && range.point - 1 + number - range.first;
}

/** Text without what people write one way or the other: capitals, spaces, and how a bit is set off. */
const folded = (text: string) =>
  text
    .toLowerCase()
    .replace(/\s+/g, '')
    .replace(/\.%x/g, '.')
    .replace(/(?<=.)[·.,]?bit(?=[\d\ue002])/g, '.')
    .replace(/[·.](?=[a-z])/g, '')
    .replace(/·/g, '.');

function formOf(notation: Notation, scene: AddressScene, bare: boolean): RegExp {
  const marked = filled(notation, scene)
    .replace(/\{unit:hex\}/g, '\ue003')
    .replace(/\{unit(:\w+)?\}/g, '\ue001')
    .replace('{bit}', '\ue002');
  const text = folded(marked);
  const literal = (bare ? text.replace(/^[a-z]+/, '') : text).replace(/[\\^$.*+?()[\]{}|]/g, '\\$&');
  const form = literal
    .replace(/(\\?[^\w\ue001\ue003])?\ue002/, '(?:$1(\\d{1,2}))?')
    .replace('\ue001', '(\\d{1,8})')
    .replace('\ue003', '([0-9a-f]{1,6})');
  return new RegExp(`^${form}$`);
}

interface Found {
  bit: number;
  notation: Notation;
}

function bitInNotation(
  form: Notation,
  scene: AddressScene,
  typed: string,
  bare: boolean,
): number | undefined {
  const notation = resolved(form, scene);
  if (!notation) return undefined;
  if (notation.unitBits === 'field') return bitOfPath(notation, scene, folded(typed));
  const block = scene.image.numbering?.blocks.find(
    ({ name }) => notation.side === 'device' && typed.toLowerCase().startsWith(`${name.toLowerCase()}:`),
  );
  const text = folded(block ? typed.slice(block.name.length + 1) : typed);
  const match = formOf(notation, scene, bare).exec(text);
  if (!match) return undefined;
  const number = notation.pattern.includes('{unit:hex}') ? parseInt(match[1]!, 16) : Number(match[1]);
  if (scene.runs && countsRegisters(notation)) {
    const inUnit = match[2] === undefined ? undefined : Number(match[2]);
    if (inUnit !== undefined && inUnit > 15)
      throw new Problem('address.noSuchBit', { unit: 'a register', first: 0, last: 15 });
    return bitOfRegister(notation, scene.runs, number, inUnit);
  }
  const { base: start, step } = counting(notation, scene);
  const base = block ? block.first : start;
  // What is counted anew in a block has no other number.
  const placed = (own: number) => {
    if (!block) return blockAt(scene, notation, own) ? -1 : own;
    const bit = own + 8 * block.at;
    return own >= 0 && blockAt(scene, notation, bit) === block ? bit : -1;
  };
  if (notation.ranges) return bitOfSignal(scene.image.numbering, number) ?? -1;
  const width = bitsOfUnit(notation, scene);
  const unit = (number - base) / step;
  // Through the area of a controller a unit may begin at any byte that has a number.
  const whole = notation.from === 'area' ? (unit * width) / 8 : unit;
  if (!Number.isInteger(whole) || (notation.last !== null && number > notation.last)) return -1;
  if (width === 1) return placed(unit);
  const bytes = width / 8;
  const order = orderOf(notation, scene);
  const inUnit = match[2] === undefined ? 0 : Number(match[2]) - notation.firstBit;
  if (inUnit < 0 || inUnit >= width)
    throw new Problem('address.noSuchBit', {
      unit: `a ${width}-bit unit`,
      first: notation.firstBit,
      last: width - 1 + notation.firstBit,
    });
  // A unit alone means its first byte's lowest bit, so that the crosshair lands where the unit begins.
  const byte = match[2] === undefined ? unit * bytes : unit * bytes + byteOffset(order, inUnit >> 3, bytes);
  const own = byte * 8 + (inUnit & 7);
  return notation.side === 'controller' && own >= 0 ? acrossSwap(scene, own) : placed(own);
}

function bitOfPath(notation: Notation, scene: AddressScene, text: string): number | undefined {
  const { signals, names } = pathNames(scene.image);
  const pattern = filled(notation, scene).replace(bitTail, '');
  let found: { signal: Signal; bit: number } | undefined;
  signals.forEach((signal, i) => {
    const path = folded(pattern.replace('{unit}', names[i]!));
    if (text === path) found = { signal, bit: 0 };
    else if (text.startsWith(`${path}.`) && /^\d+$/.test(text.slice(path.length + 1)))
      found = { signal, bit: Number(text.slice(path.length + 1)) };
  });
  if (!found) return undefined;
  const { signal, bit } = found;
  const place = placeOfValueBit(signal, bit);
  if (place === undefined)
    throw new Problem('address.noSuchBit', { unit: signal.name, first: 0, last: signal.bits - 1 });
  return place;
}

/**
 * The bit that an address of either side means. The controller's and the image's own notation are tried first, then all
 * others; spaces and capitals do not matter. Throws `address.unreadable`, `address.outside`, `address.noSuchBit`, or
 * `address.otherDirection` for an address of the other image.
 */
export function bitOfAddress(typed: string, scene: AddressScene): number {
  const text = folded(typed);
  const { image } = scene;
  const sides = bothSides(scene, 0);
  const command = image.direction === 'command';
  if (command ? /^(fb\[|%i)/.test(text) : /^(cmd\[|%q)/.test(text))
    throw new Problem('address.otherDirection', {
      text: typed,
      image: `the ${image.direction} image`,
      example: sides.controller.text,
    });
  if (/^%[iq][xbwdl]?\d/.test(text) && !scene.controller.direct)
    throw new Problem('address.directNotChosen', { text: typed });
  const own = deviceNotation(scene);
  const attempts: [Notation, boolean][] = [
    [controllerNotation(scene), false],
    [own, false],
    [own, true],
    ...notationsOf(scene).map((n): [Notation, boolean] => [n, false]),
    [standardNotations[0]!, true],
  ];
  let outside: Found | undefined;
  for (const [notation, bare] of attempts) {
    const bit = bitInNotation(notation, scene, typed.trim(), bare);
    if (bit === undefined) continue;
    if (bit >= 0 && bit < image.size * 8) return bit;
    outside ??= { bit, notation };
  }
  if (outside) {
    const end = Math.max(0, image.size * 8 - 1);
    const last = writeAddress(outside.notation, scene, end) ?? bothSides(scene, end).device.text;
    throw new Problem('address.outside', { text: typed, image: `the ${image.direction} image`, last });
  }
  throw new Problem('address.unreadable', {
    text: typed,
    example: [...new Set([sides.controller.text, sides.controller.direct, sides.device.text, '0.0'])].join(
      ', ',
    ),
  });
}
