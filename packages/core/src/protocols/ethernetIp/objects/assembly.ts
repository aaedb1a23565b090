import { encode, u16 } from '../../../bytes/struct.js';
import { classes, services } from '../messageRouter.js';
import type { Caller, CipClass } from '../objectModel.js';
import { logicalOf } from '../path.js';
import { generalStatus } from '../status.js';

/** One assembly of a target: its bytes, and what happens when somebody sets them by an explicit message. */
export interface AssemblyFacts {
  instance: number;
  bytes: () => Uint8Array;
  /** Takes over bytes of the right length; returns a general status. Absent: it can only be read. */
  set?: (data: Uint8Array, caller: Caller) => number;
}

/** The Assembly object, class 4 (CIP Vol. 1, 5-5): attribute 3 the data, attribute 4 their size in bytes. */
export function assemblyObject(assemblies: () => readonly AssemblyFacts[]): CipClass {
  const found = (number: number) => assemblies().find((a) => a.instance === number);
  return {
    id: classes.assembly,
    own: { attributes: {} },
    numbers: () =>
      assemblies()
        .map((a) => a.instance)
        .sort((a, b) => a - b),
    instance: (number) => {
      const assembly = found(number);
      if (!assembly) return undefined;
      const { bytes, set } = assembly;
      return {
        attributes: {
          3: { read: () => bytes().slice(), apart: true },
          4: { read: () => encode(u16, bytes().length), apart: true },
        },
        services: {
          // Who asks matters: what came over a connection is dropped with it.
          [services.setAttributeSingle]: ({ path, data }, caller) => {
            const number = logicalOf(path, 'attribute');
            if (number !== 3)
              return {
                status:
                  number === 4 ? generalStatus.attributeNotSettable : generalStatus.attributeNotSupported,
              };
            if (!set) return { status: generalStatus.attributeNotSettable };
            const size = bytes().length;
            if (data.length < size) return { status: generalStatus.notEnoughData };
            if (data.length > size) return { status: generalStatus.tooMuchData };
            return { status: set(data, caller) };
          },
        },
      };
    },
  };
}
