import type { AddressScene } from '../layout/address.js';
import type { ElementForm } from '../layout/elementForm.js';
import { protocolOf } from '../protocols/list.js';
import type { ImagePlace } from './find.js';
import type { Link } from './link.js';
import type { Cell } from './model.js';

/**
 * How the controller's program sees the bytes of a link as elements: as the link says, else as its protocol has it,
 * else as the controller sees all others.
 */
export function elementsOf({ controller }: Pick<Cell, 'controller'>, link: Link): ElementForm {
  const { bits, order } = link.elements;
  const usual = { ...controller, ...protocolOf(link).elements };
  return { elementBits: bits ?? usual.elementBits, elementOrder: order ?? usual.elementOrder };
}

/** The addresses of an image of a cell. */
export const sceneOf = (
  cell: Pick<Cell, 'controller' | 'notations'>,
  { device, link, image }: ImagePlace,
): AddressScene => ({
  controller: {
    notation: cell.controller.notation,
    direct: cell.controller.direct,
    ...elementsOf(cell, link),
  },
  notations: cell.notations,
  device,
  image,
  runs: runsOf(link, image),
  ages: image.direction === 'feedback' ? protocolOf(link).ages?.(link) : undefined,
});

function runsOf(link: Link, { direction }: ImagePlace['image']): AddressScene['runs'] {
  const runs = protocolOf(link).runs?.(link, direction);
  return runs && runs.length > 0 ? runs : undefined;
}
