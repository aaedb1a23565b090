import type { Behaviour } from './behaviour.js';
import { ConnectionPoint, nothingEntered, type DescriptionOf } from './description.js';
import type { Identity } from './identity.js';

/**
 * What a kind of device with a behaviour offers by itself: the description of a device that was never given another
 * one.
 */
export function ownDescription<State>({
  title,
  identity,
  offer,
  assemblies,
  loss = null,
}: Pick<Behaviour<State>, 'title' | 'offer' | 'assemblies' | 'loss'> & {
  identity: Identity;
}): DescriptionOf {
  return {
    origin: { from: 'table', title },
    identity,
    points: assemblies.map(({ instance, title = '', use, size, fields, registers = null }) =>
      ConnectionPoint.parse({ number: instance, title, use, size, registers, fields }),
    ),
    loss,
    ...nothingEntered,
    offer,
  };
}
