import { encode, u16 } from '../../../bytes/struct.js';
import { Writer } from '../../../bytes/writer.js';
import { classes } from '../messageRouter.js';
import { attribute, single, type CipClass } from '../objectModel.js';

/**
 * The Message Router object, class 2 (CIP Vol. 1, 5-3): attribute 1 lists the classes, attribute 2 counts connections.
 */
export function messageRouterObject(
  known: () => readonly CipClass[],
  connections: { maximum: number; active: () => number },
): CipClass {
  return single(classes.messageRouter, {
    attributes: {
      1: {
        read: () => {
          const w = new Writer();
          const ids = known().map((c) => c.id);
          w.u16(ids.length);
          for (const id of ids) w.put(encode(u16, id));
          return w.done();
        },
      },
      2: attribute(u16, () => connections.maximum),
      3: attribute(u16, connections.active),
    },
  });
}
