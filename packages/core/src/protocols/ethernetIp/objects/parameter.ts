import { encode, i16, shortString, u16, u8 } from '../../../bytes/struct.js';
import type { DescribedParameter } from '../../../devices/plain/parameters.js';
import type { FieldType } from '../../../layout/fieldTypes.js';
import { ratio, ratioNumber } from '../../../layout/ratio.js';
import { classes, services } from '../messageRouter.js';
import { attribute, type Attribute, type CipClass, type CipInstance, type Outcome } from '../objectModel.js';
import { encodePath, logical } from '../path.js';
import { generalStatus } from '../status.js';
import { valueAttribute } from './described.js';

/** CIP type codes (Vol. 1, C-6.1); 0 for a type that CIP does not have. */
const cipTypes: Readonly<Partial<Record<FieldType, number>>> = {
  ...{ BOOL: 0xc1, SINT: 0xc2, INT: 0xc3, DINT: 0xc4, LINT: 0xc5, USINT: 0xc6, UINT: 0xc7, UDINT: 0xc8 },
  ...{ ULINT: 0xc9, REAL: 0xca, LREAL: 0xcb, STRING: 0xd0, BYTE: 0xd1, WORD: 0xd2, DWORD: 0xd3, LWORD: 0xd4 },
};

/** Descriptor bits, attribute 4 (Vol. 1, 5-14.2.1.4): enumerated texts, scaling, read only, extended precision. */
const descriptor = { texts: 0x02, scaling: 0x04, readOnly: 0x10, precision: 0x40 } as const;

/** The attribute of an instance that holds the value (Vol. 1, 5-14.2). */
const valueNumber = 1;

/**
 * The Parameter object, class 16#0F, with full attributes and the texts of its values (Vol. 1, 5-14): an instance for
 * each parameter that stands there; undefined where none does.
 */
export function parameterObject(parameters: readonly DescribedParameter[]): CipClass | undefined {
  const instances = new Map<number, CipInstance>();
  for (const one of parameters) {
    const { place } = one.parameter;
    if (place?.way !== 'attribute' || place.class !== classes.parameter) continue;
    const own = place.attribute === valueNumber ? instanceOf(one, place.instance) : undefined;
    const before = instances.get(place.instance);
    const attributes = own?.attributes ?? { [place.attribute]: valueAttribute(one) };
    instances.set(place.instance, {
      ...before,
      ...own,
      attributes: { ...before?.attributes, ...attributes },
    });
  }
  if (instances.size === 0) return undefined;
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
    numbers: () => [...instances.keys()].filter((n) => n > 0).sort((a, b) => a - b),
    instance: (number) => instances.get(number),
  };
}

/** Multiplier, divisor and offset: value = (raw + offset) × multiplier / divisor (Vol. 1, 5-14.3). */
function scaling({
  scale,
}: DescribedParameter['parameter']): Record<'multiplier' | 'divisor' | 'offset', number> {
  const none = { multiplier: 1, divisor: 1, offset: 0 };
  if (!scale) return none;
  const factor = ratio(scale.factor);
  const offset = ratio(scale.offset).div(factor);
  const [multiplier, divisor] = [Number(factor.n), Number(factor.d)];
  const fits = factor.s >= 0n && multiplier <= 0xffff && divisor <= 0xffff && offset.d === 1n;
  const least = Number(offset.s * offset.n);
  return fits && Math.abs(least) < 0x8000 ? { multiplier, divisor, offset: least } : none;
}

function instanceOf(one: DescribedParameter, instance: number): CipInstance {
  const { parameter: p, bytes } = one;
  const { multiplier, divisor, offset } = scaling(p);
  const decimals = Number.isInteger(Math.log10(divisor)) ? Math.log10(divisor) : 0;
  const path = encodePath([
    logical('class', classes.parameter),
    logical('instance', instance),
    logical('attribute', valueNumber),
  ]);
  const bits =
    (p.labels.length > 0 ? descriptor.texts : 0) |
    (multiplier !== 1 || divisor !== 1 || offset !== 0 ? descriptor.scaling : 0) |
    (p.access === 'read' ? descriptor.readOnly : 0) |
    (decimals > 0 ? descriptor.precision : 0);
  /** A limit or the initial value; an attribute that it does not have where the description says none. */
  const said = (number: number, text: string | null | undefined): Record<number, Attribute> => {
    const encoded = text == null ? undefined : one.encoded(ratioNumber(text));
    return encoded ? { [number]: { read: () => encoded } } : {};
  };
  return {
    attributes: {
      [valueNumber]: valueAttribute(one),
      2: attribute(u8, () => path.length),
      3: { read: () => path },
      4: attribute(u16, () => bits),
      5: attribute(u8, () => cipTypes[p.type] ?? 0),
      6: attribute(u8, () => bytes.length),
      7: attribute(shortString, () => p.name),
      8: attribute(shortString, () => p.unit),
      9: attribute(shortString, () => p.note),
      ...said(10, p.limits?.minimum),
      ...said(11, p.limits?.maximum),
      ...said(12, p.initial),
      13: attribute(u16, () => multiplier),
      14: attribute(u16, () => divisor),
      15: attribute(u16, () => 1),
      16: attribute(i16, () => offset),
      17: attribute(u16, () => 0),
      18: attribute(u16, () => 0),
      19: attribute(u16, () => 0),
      20: attribute(u16, () => 0),
      21: attribute(u8, () => decimals),
    },
    services: {
      [services.getEnumString]: ({ data }): Outcome => {
        if (p.labels.length === 0) return { status: generalStatus.serviceNotSupported };
        if (data.length < 1) return { status: generalStatus.notEnoughData };
        const label = p.labels.find(({ value }) => value === data[0]!);
        return label ? { data: encode(shortString, label.text) } : { status: generalStatus.invalidParameter };
      },
    },
  };
}
