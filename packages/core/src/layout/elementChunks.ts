import type { ElementForm } from './elementForm.js';
import type { Image } from './image.js';
import { byteOffset, piecesOf, swappedByte, type Placed } from './byteOrder.js';

/** Neighbouring bits of a value that lie side by side in one element of the controller. */
export interface Chunk {
  element: number;
  /** Lowest bit within the element. */
  elementBit: number;
  /** Which bit of the value lies there. */
  valueBit: number;
  count: number;
}

type Swap = Pick<Image, 'size' | 'swapped'>;

/** Where the bits of a field lie in the controller's elements, lowest bits of the value first. */
export function chunksOf(field: Placed, image: Swap, { elementBits, elementOrder }: ElementForm): Chunk[] {
  const bytes = elementBits / 8;
  const chunks: Chunk[] = [];
  for (const { byte, bit, count, valueBit } of piecesOf(field)) {
    const wire = image.swapped ? swappedByte(byte, image.size) : byte;
    const element = Math.floor(wire / bytes);
    const elementBit = byteOffset(elementOrder, wire % bytes, bytes) * 8 + bit;
    const last = chunks.at(-1);
    const follows =
      last &&
      last.element === element &&
      last.elementBit + last.count === elementBit &&
      last.valueBit + last.count === valueBit;
    if (follows) last.count += count;
    else chunks.push({ element, elementBit, valueBit, count });
  }
  return chunks;
}
