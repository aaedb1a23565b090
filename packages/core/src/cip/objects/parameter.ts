import { encode, i16, i32, shortString, u16, u32, u8, type Part } from '../../bytes/struct.js';
import { classes, services } from '../messageRouter.js';
import { attribute, type CipClass, type CipInstance, type Outcome } from '../objectModel.js';
import { encodePath, logical } from '../path.js';
import { generalStatus } from '../status.js';

/** Data types of parameters: CIP type code (Vol. 1, C-6.1), bytes, part. */
export const parameterTypes = {
  USINT: { code: 0xc6, bytes: 1, part: u8 },
  UINT: { code: 0xc7, bytes: 2, part: u16 },
  UDINT: { code: 0xc8, bytes: 4, part: u32 },
  INT: { code: 0xc3, bytes: 2, part: i16 },
  DINT: { code: 0xc4, bytes: 4, part: i32 },
} as const satisfies Record<string, { code: number; bytes: number; part: Part<number> }>;

/** What a parameter is, apart from its value. Engineering value = (raw + offset) × multiplier × base / divisor. */
export interface ParameterFacts {
  number: number;
  name: string;
  unit: string;
  help: string;
  type: keyof typeof parameterTypes;
  least: number;
  most: number;
  initial: number;
  multiplier?: number;
  divisor?: number;
  /** Places behind the point of the engineering value. */
  decimals?: number;
  readOnly?: boolean;
  /** Texts of its values from `least` on. */
  texts?: readonly string[];
}

/** Descriptor bits, attribute 4 (Vol. 1, 5-14.2.1.4): enumerated texts, scaling, read only, extended precision. */
const descriptor = { texts: 0x02, scaling: 0x04, readOnly: 0x10, precision: 0x40 } as const;

/** The Parameter object, class 16#0F, with full attributes and the texts of its values (Vol. 1, 5-14). */
export function parameterObject(
  parameters: readonly ParameterFacts[],
  get: (number: number) => number,
  /** Takes over a raw value that is in range; a general status says whether it did. */
  set: (number: number, raw: number) => number,
): CipClass {
  const instances = new Map(parameters.map((p) => [p.number, instanceOf(p, get, set)]));
  return {
    id: classes.parameter,
    own: {
      attributes: {
        2: attribute(u16, () => Math.max(0, ...instances.keys())),
        // Parameter class descriptor: instances exist, full attributes, stored in the device.
        8: attribute(u16, () => 0x0b),
        9: attribute(u16, () => 0),
      },
    },
    numbers: () => [...instances.keys()].sort((a, b) => a - b),
    instance: (number) => instances.get(number),
  };
}

function instanceOf(
  p: ParameterFacts,
  get: (number: number) => number,
  set: (number: number, raw: number) => number,
): CipInstance {
  const { code, bytes, part } = parameterTypes[p.type];
  const path = encodePath([
    logical('class', classes.parameter),
    logical('instance', p.number),
    logical('attribute', 1),
  ]);
  const bits =
    (p.texts ? descriptor.texts : 0) |
    ((p.multiplier ?? 1) !== 1 || (p.divisor ?? 1) !== 1 ? descriptor.scaling : 0) |
    (p.readOnly ? descriptor.readOnly : 0) |
    (p.decimals ? descriptor.precision : 0);
  const value = attribute(
    part as Part<number>,
    () => get(p.number),
    (raw) => {
      if (raw < p.least || raw > p.most) return generalStatus.invalidAttributeValue;
      return set(p.number, raw);
    },
  );
  return {
    attributes: {
      1: p.readOnly ? { read: value.read } : value,
      2: attribute(u8, () => path.length),
      3: { read: () => path },
      4: attribute(u16, () => bits),
      5: attribute(u8, () => code),
      6: attribute(u8, () => bytes),
      7: attribute(shortString, () => p.name),
      8: attribute(shortString, () => p.unit),
      9: attribute(shortString, () => p.help),
      10: attribute(part as Part<number>, () => p.least),
      11: attribute(part as Part<number>, () => p.most),
      12: attribute(part as Part<number>, () => p.initial),
      13: attribute(u16, () => p.multiplier ?? 1),
      14: attribute(u16, () => p.divisor ?? 1),
      15: attribute(u16, () => 1),
      16: attribute(i16, () => 0),
      17: attribute(u16, () => 0),
      18: attribute(u16, () => 0),
      19: attribute(u16, () => 0),
      20: attribute(u16, () => 0),
      21: attribute(u8, () => p.decimals ?? 0),
    },
    services: {
      [services.getEnumString]: ({ data }): Outcome => {
        if (!p.texts) return { status: generalStatus.serviceNotSupported };
        if (data.length < 1) return { status: generalStatus.notEnoughData };
        const text = p.texts[data[0]!];
        return text === undefined
          ? { status: generalStatus.invalidParameter }
          : { data: encode(shortString, text) };
      },
    },
  };
}
