import { Reader } from '../../bytes/reader.js';
import { shortString } from '../../bytes/struct.js';
import type { Parameter } from '../../devices/parameter.js';
import { parameterClass, parameterValue } from '../../tables/parameterPlace.js';
import { encodePath, logical } from '../../protocols/ethernetIp/path.js';
import type { Exact } from '../shared/exact.js';
import { narrow } from '../shared/exact.js';
import { isSignedCode } from './dataTypes.js';
import { descriptorBits, type DescribedParameter } from './eds.js';
import { parametersOf } from './edsParameters.js';
import { hexPairs } from './hexPath.js';

/** Attributes of an instance of the Parameter object that say what it is (CIP Vol. 1, 5-14.2; from memory). */
export const parameterAttributes = {
  ...{
    descriptor: 4,
    dataType: 5,
    size: 6,
    name: 7,
    unit: 8,
    help: 9,
    minimum: 10,
    maximum: 11,
    initial: 12,
  },
  ...{ multiplier: 13, divisor: 14, base: 15, offset: 16, decimals: 21 },
} as const;
export type ParameterAttribute = keyof typeof parameterAttributes;

/** What a device itself says of one of its parameters: the bytes of attributes, and the texts of its values. */
export interface SaidParameter {
  instance: number;
  attributes: Partial<Record<ParameterAttribute, Uint8Array>>;
  labels: readonly { value: number; text: string }[];
}

/** Whether an instance has texts for its values. */
export const hasTexts = ({ attributes }: SaidParameter): boolean =>
  (word(attributes.descriptor) & descriptorBits.enumerated) !== 0;

/**
 * Parameters out of what a device says of them by its Parameter object: as its data sheet would have them, for a device
 * of which nobody has one. What has no type or size is left out.
 */
export const parametersSaid = (said: readonly SaidParameter[], newId: () => string): Parameter[] =>
  parametersOf(
    { parameters: said.flatMap((one) => describedBy(one) ?? []), groups: [], assemblies: [] },
    newId,
  );

function describedBy({ instance, attributes, labels }: SaidParameter): DescribedParameter | undefined {
  const { dataType: code, size: bytes } = attributes;
  if (!code?.[0] || !bytes?.[0]) return undefined;
  const dataType = code[0];
  const number = (raw: Uint8Array | undefined): Exact | null =>
    raw && raw.length === bytes[0] && raw.length <= 8 ? numberOf(raw, dataType) : null;
  const path = [
    logical('class', parameterClass),
    logical('instance', instance),
    logical('attribute', parameterValue),
  ];
  return {
    number: instance,
    path: hexPairs(encodePath(path)),
    descriptor: word(attributes.descriptor),
    dataType,
    size: bytes[0],
    name: textOf(attributes.name),
    unit: textOf(attributes.unit),
    help: textOf(attributes.help),
    minimum: number(attributes.minimum),
    maximum: number(attributes.maximum),
    initial: number(attributes.initial),
    initialText: '',
    scaling: {
      ...{ multiplier: word(attributes.multiplier, 1), divider: word(attributes.divisor, 1) },
      ...{ base: word(attributes.base, 1), offset: (word(attributes.offset) << 16) >> 16 },
      ...{ multiplierLink: null, dividerLink: null, baseLink: null, offsetLink: null },
    },
    decimals: attributes.decimals?.[0] ?? 0,
    labels: [...labels],
  };
}

/** A number of 16 bits, low byte first; one that is not there, or 0 where that means nothing, is the usual one. */
const word = (bytes: Uint8Array | undefined, usual = 0): number =>
  bytes && bytes.length >= 2 ? bytes[0]! | (bytes[1]! << 8) || usual : usual;

const realCodes = { single: 0xca, double: 0xcb } as const;
function numberOf(raw: Uint8Array, code: number): Exact {
  const view = new DataView(raw.buffer, raw.byteOffset, raw.byteLength);
  if (code === realCodes.single && raw.length === 4) return view.getFloat32(0, true);
  if (code === realCodes.double && raw.length === 8) return view.getFloat64(0, true);
  let value = 0n;
  for (let i = raw.length - 1; i >= 0; i -= 1) value = (value << 8n) | BigInt(raw[i]!);
  return narrow(isSignedCode(code) ? BigInt.asIntN(raw.length * 8, value) : value);
}

/** A SHORT_STRING; empty where its bytes are none. */
function textOf(bytes: Uint8Array | undefined): string {
  if (!bytes?.length) return '';
  try {
    return shortString.read(new Reader(bytes, 'text of a parameter'));
  } catch {
    return '';
  }
}
