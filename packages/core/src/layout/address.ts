import type { Controller, Direction, Image } from '../cell/model.js';
import { Problem } from '../messages/problem.js';

/**
 * Both addresses of a bit. The device's output is the controller's input: a feedback image lies in the controller's
 * input area (%I) and in the device's output; a command image the other way round.
 */
export interface BothSides {
  controller: {
    /** The side's own word for this direction. */
    side: 'input' | 'output';
    element: number;
    bit: number;
    /** Element and bit, such as fb[7].%X12 (partial access, IEC 61131-3:2013, 6.6.1.2). */
    text: string;
    /** The element alone, such as fb[7]. */
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
    /** 16-bit word of the image, counted from 0. */
    word: number;
    text: string;
  };
}

type Place = Pick<Image, 'direction' | 'start' | 'size'>;
type ElementBits = Controller['elementBits'];

const arrayName: Record<Direction, string> = { command: 'cmd', feedback: 'fb' };
const area: Record<Direction, 'Q' | 'I'> = { command: 'Q', feedback: 'I' };
const sizeLetter: Record<ElementBits, string> = { 8: 'B', 16: 'W', 32: 'D' };

/** The addresses of bit `bit` (from 0 at bit 0 of byte 0) of an image, for a controller with elements of this width. */
export function bothSides(image: Place, bit: number, elementBits: ElementBits): BothSides {
  const element = Math.floor(bit / elementBits);
  const byte = bit >> 3;
  const command = image.direction === 'command';
  const elementText = `${arrayName[image.direction]}[${element}]`;
  return {
    controller: {
      side: command ? 'output' : 'input',
      element,
      bit: bit % elementBits,
      text: `${elementText}.%X${bit % elementBits}`,
      elementText,
      direct: `%${area[image.direction]}X${image.start + byte}.${bit & 7}`,
      directElement: `%${area[image.direction]}${sizeLetter[elementBits]}${image.start + (element * elementBits) / 8}`,
    },
    device: {
      side: command ? 'input' : 'output',
      byte,
      bit: bit & 7,
      word: byte >> 1,
      text: `byte ${byte} · bit ${bit & 7}`,
    },
  };
}

const forms: {
  form: RegExp;
  bitOf: (parts: number[], image: Place, elementBits: ElementBits) => number | undefined;
}[] = [
  // fb[7].%X12, fb[7].12, fb[7]
  {
    form: /^(?:fb|cmd)\[(\d+)\](?:\.(?:%x)?(\d+))?$/,
    bitOf: ([element, bit = 0], _, width) => (bit < width ? element! * width + bit : undefined),
  },
  // %IX527.4, %QB3, %IW526, %ID528
  { form: /^%[iq]x(\d+)\.([0-7])$/, bitOf: ([byte, bit], image) => (byte! - image.start) * 8 + bit! },
  { form: /^%[iq][bwd](\d+)$/, bitOf: ([byte], image) => (byte! - image.start) * 8 },
  // byte 15 bit 4, byte 15, 15.4, 15
  { form: /^(?:byte)?(\d+)(?:(?:[.·]|bit|·bit)([0-7]))?$/, bitOf: ([byte, bit = 0]) => byte! * 8 + bit },
  // word 7 bit 12, word 7
  {
    form: /^word(\d+)(?:(?:[.·]|bit|·bit)(\d+))?$/,
    bitOf: ([word, bit = 0]) => (bit < 16 ? word! * 16 + bit : undefined),
  },
];

/**
 * The bit that an address of either side means. Spaces and capitals do not matter; the other direction's prefix is
 * refused. Throws `address.unreadable` or `address.outside`.
 */
export function bitOfAddress(typed: string, image: Place, elementBits: ElementBits): number {
  const text = typed.toLowerCase().replace(/\s+/g, '');
  const example = `${bothSides(image, 0, elementBits).controller.text}, ${bothSides(image, 0, elementBits).controller.direct}, byte 0 bit 0 or 0.0`;
  const otherPrefix = image.direction === 'command' ? /^(fb|%i)/ : /^(cmd|%q)/;
  if (!otherPrefix.test(text)) {
    for (const { form, bitOf } of forms) {
      const match = form.exec(text);
      const parts = match
        ?.slice(1)
        .map((part) => (part === undefined ? undefined : Number(part))) as number[];
      const bit = match ? bitOf(parts, image, elementBits) : undefined;
      if (bit === undefined) continue;
      if (bit >= 0 && bit < image.size * 8) return bit;
      throw new Problem('address.outside', {
        text: typed,
        image: `the ${image.direction} image`,
        last: `byte ${image.size - 1} bit 7`,
      });
    }
  }
  throw new Problem('address.unreadable', { text: typed, example });
}
