import { encode, i16, i32, shortString, u16, u32, u8, type Part } from '../../../bytes/struct.js';
import {
  parameterTypes,
  type ParameterFacts,
  type ParameterTable,
  type ParameterType,
} from '../../../devices/parameterAccess.js';
import { classes, services } from '../messageRouter.js';
import { attribute, type CipClass, type CipInstance, type Outcome } from '../objectModel.js';
import { encodePath, logical } from '../path.js';
import { statusOf } from '../refusals.js';
import { generalStatus } from '../status.js';

/** CIP type code (Vol. 1, C-6.1) and part of each type that a parameter can have. */
const cipTypes = {
  USINT: { code: 0xc6, part: u8 },
  UINT: { code: 0xc7, part: u16 },
  UDINT: { code: 0xc8, part: u32 },
  INT: { code: 0xc3, part: i16 },
  DINT: { code: 0xc4, part: i32 },
} as const satisfies Record<ParameterType, { code: number; part: Part<number> }>;

/** Descriptor bits, attribute 4 (Vol. 1, 5-14.2.1.4): enumerated texts, scaling, read only, extended precision. */
const descriptor = { texts: 0x02, scaling: 0x04, readOnly: 0x10, precision: 0x40 } as const;

/** The Parameter object, class 16#0F, with full attributes and the texts of its values (Vol. 1, 5-14). */
export function parameterObject(table: ParameterTable): CipClass {
  const instances = new Map(table.parameters.map((p) => [p.number, instanceOf(p, table)]));
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

function instanceOf(p: ParameterFacts, table: ParameterTable): CipInstance {
  const { code, part } = cipTypes[p.type];
  const { bytes } = parameterTypes[p.type];
  const readOnly = p.access === 'read';
  const path = encodePath([
    logical('class', classes.parameter),
    logical('instance', p.number),
    logical('attribute', 1),
  ]);
  const bits =
    (p.texts ? descriptor.texts : 0) |
    ((p.multiplier ?? 1) !== 1 || (p.divisor ?? 1) !== 1 ? descriptor.scaling : 0) |
    (readOnly ? descriptor.readOnly : 0) |
    (p.decimals ? descriptor.precision : 0);
  const value = attribute(
    part as Part<number>,
    () => table.read(p.number),
    (raw) => statusOf(table.write(p.number, raw)),
  );
  return {
    attributes: {
      1: readOnly ? { read: value.read } : value,
      2: attribute(u8, () => path.length),
      3: { read: () => path },
      4: attribute(u16, () => bits),
      5: attribute(u8, () => code),
      6: attribute(u8, () => bytes),
      7: attribute(shortString, () => p.name),
      8: attribute(shortString, () => p.unit),
      9: attribute(shortString, () => p.help),
      10: attribute(part as Part<number>, () => p.minimum),
      11: attribute(part as Part<number>, () => p.maximum),
      12: attribute(part as Part<number>, () => p.default),
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
