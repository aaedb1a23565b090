import type { Exact } from '../shared/exact.js';
import { engineeringLimits } from '../shared/engineering.js';
import { draftField, labelsOf, tidy, type FieldDraft } from '../shared/fieldTexts.js';
import Fraction from 'fraction.js';
import { identifierOf, uniqueIdentifiers } from '../../entries/identifiers.js';
import type { Field } from '../../layout/field.js';
import { maxImageBytes } from '../../entries/entries.js';
import { decodePath } from '../../protocols/ethernetIp/path.js';
import { fieldTypes, readsOf, type FieldType } from '../../layout/fieldTypes.js';
import { fieldTypeOf, textPrefixOf } from './dataTypes.js';
import { bytesOfPath, hexPairs } from './hexPath.js';
import { memberBits } from './memberBits.js';
import type {
  ConnectionDirection,
  DescribedAssembly,
  DescribedConnection,
  DescribedParameter,
  Eds,
  Format,
  Stated,
} from './eds.js';

/** One direction of a described connection as an image has it. */
export interface DescribedImage {
  instance: number;
  /** Bytes; 0 where the describer does not say. */
  size: number;
  fields: Field[];
  /** Whether its members are described; false: nothing is known of its layout. */
  described: boolean;
}

export interface ConnectionImages {
  connection: DescribedConnection;
  command: DescribedImage;
  feedback: DescribedImage;
  configurationInstance: number | null;
}

/** Every connection of a describer with its images, fields wherever members are described. */
export const connectionImages = (describer: Eds): ConnectionImages[] =>
  describer.connections.map((connection) => {
    const points = connectionPoints(filledPath(describer, connection.path));
    return {
      connection,
      command: imageOf(describer, connection.command, points.command),
      feedback: imageOf(describer, connection.feedback, points.feedback),
      configurationInstance: points.configuration,
    };
  });

/**
 * A connection path with what its parameters are at first in place of `[Param1]`, low byte first, in as many bytes as
 * they have (CIP Vol. 1, 7-3.6.10; from memory). One that is not described or has no value becomes 0 and leaves the
 * rest of the path as it is.
 */
export const filledPath = (describer: Eds, path: string): string =>
  path.replace(/\[?\bParam(\d{1,9})\b\]?/gi, (_, number: string) => {
    const parameter = describer.parameters.find((p) => p.number === Number(number));
    const bytes = Math.min(4, Math.max(1, parameter?.size ?? 1));
    const value = BigInt.asUintN(bytes * 8, BigInt(Math.trunc(Number(parameter?.initial ?? 0))));
    return hexPairs(Uint8Array.from({ length: bytes }, (_, i) => Number((value >> BigInt(8 * i)) & 0xffn)));
  });

interface Points {
  configuration: number | null;
  command: number;
  feedback: number;
}

/**
 * The instances that a connection path names: class 4, the configuration, then the point that consumes and the one that
 * produces (CIP Vol. 1, 3-5.5.1.10).
 */
export function connectionPoints(path: string): Points {
  const none = { configuration: null, command: 0, feedback: 0 };
  try {
    const logical = decodePath(bytesOfPath(path)).filter((s) => s.segment === 'logical');
    const instances = logical.filter((s) => s.type === 'instance').map((s) => s.value);
    const points = logical.filter((s) => s.type === 'connectionPoint').map((s) => s.value);
    // Without connection points, the instances themselves say configuration, command, feedback.
    const [command = 0, feedback = 0] = points.length > 0 ? points : instances.slice(1);
    return { configuration: instances[0] ?? null, command, feedback };
  } catch {
    // CutOff off, or with symbols: then the file says nothing of instances.
    return none;
  }
}

/** What a size or a time is: the number, or what the parameter that holds it is at first. */
export function statedValue(describer: Eds, stated: Stated): number | null {
  if (!stated) return null;
  if ('value' in stated) return stated.value;
  return plainNumber(describer.parameters.find((p) => p.number === stated.parameter)?.initial);
}

const plainNumber = (exact: Exact | null | undefined): number | null =>
  exact == null ? null : Number(exact);

/** The least value that a connection may be opened with, where a parameter states it; null where none does. */
export const statedMinimum = (describer: Eds, stated: Stated): number | null =>
  stated && 'parameter' in stated
    ? plainNumber(describer.parameters.find((p) => p.number === stated.parameter)?.minimum)
    : null;

function imageOf(describer: Eds, { size, format }: ConnectionDirection, instance: number): DescribedImage {
  const assembly = formatOf(describer, format);
  const bytes =
    statedValue(describer, size) ?? assembly?.size ?? (assembly ? bytesOfMembers(describer, assembly) : 0);
  const within = Math.min(Math.max(0, Math.round(bytes)), maxImageBytes);
  const fields = assembly ? fieldsOf(describer, assembly, within * 8) : [];
  return { instance, size: within, fields, described: (assembly?.members.length ?? 0) > 0 };
}

/** What the bytes of a direction are: an assembly, or one parameter, which is an assembly of one member. */
function formatOf(describer: Eds, format: Format): DescribedAssembly | undefined {
  if (!format) return undefined;
  if ('assembly' in format) return describer.assemblies.find((a) => a.number === format.assembly);
  const parameter = describer.parameters.find((p) => p.number === format.parameter);
  return (
    parameter && {
      ...{ number: 0, name: parameter.name, path: '', size: parameter.size, descriptor: 0 },
      members: [{ bits: null, refers: { to: 'parameter', number: parameter.number } }],
    }
  );
}

/** Bytes of an assembly that states none, by its members and those of the assemblies in it. */
function bytesOfMembers(describer: Eds, assembly: DescribedAssembly): number {
  const parameters = new Map(describer.parameters.map((p) => [p.number, p]));
  const assemblies = new Map(describer.assemblies.map((a) => [a.number, a]));
  const bits = memberBits(parameters, assemblies)(assembly);
  return Math.ceil((bits ?? 0) / 8);
}

interface Placed {
  name: string;
  at: number;
  bits: number;
  parameter: DescribedParameter | undefined;
}

/** As many as an image can have. */
const mostFields = 4000;
/**
 * Members that are gone through, those of inner assemblies each time they occur: an assembly that holds itself has no
 * end.
 */
const mostMembers = 20_000;

/** The fields of an assembly, as far as they lie within so many bits. */
export function fieldsOf(describer: Eds, assembly: DescribedAssembly, within: number): Field[] {
  const parameters = new Map(describer.parameters.map((p) => [p.number, p]));
  const assemblies = new Map(describer.assemblies.map((a) => [a.number, a]));
  const placed: Placed[] = [];
  let left = mostMembers;
  const place = ({ members }: DescribedAssembly, from: number, prefix: string): number => {
    let at = from;
    for (const { bits: stated, refers } of members) {
      if ((left -= 1) < 0 || at > within || placed.length >= mostFields) return at;
      if (refers.to === 'assembly') {
        const inner = assemblies.get(refers.number);
        const end = inner && inner !== assembly ? place(inner, at, `${prefix}${inner.name} `) : at;
        at = stated === null ? end : at + stated;
        continue;
      }
      const parameter = refers.to === 'parameter' ? parameters.get(refers.number) : undefined;
      const bits = stated ?? (parameter ? parameter.size * 8 : 0);
      // Bits that refer to nothing are padding; a path without a parameter is a value without a name.
      if (parameter) placed.push({ name: `${prefix}${parameter.name}`, at, bits, parameter });
      else if (refers.to === 'path') placed.push({ name: `${prefix}value_${at >> 3}`, at, bits, parameter });
      at += bits;
    }
    return at;
  };
  place(assembly, 0, '');
  const inside = placed.filter(({ at, bits }) => bits > 0 && at + bits <= within);
  const names = uniqueIdentifiers(inside.map((p) => identifierOf(p.name).toLowerCase().slice(0, 60)));
  return inside.flatMap((p, i) => fieldOf(p, names[i]!) ?? []);
}

function fieldOf({ name: said, at, bits, parameter }: Placed, name: string): Field | undefined {
  const declared = parameter && fieldTypeOf(parameter.dataType);
  const prefix = parameter && bits % 8 === 0 && at % 8 === 0 ? textPrefixOf(parameter.dataType) : undefined;
  const characters = prefix !== undefined && bits > prefix;
  const type: FieldType = characters
    ? 'STRING'
    : bits === 1
      ? 'BOOL'
      : declared && fieldTypes[declared].bits === bits
        ? declared
        : bits <= 64
          ? 'BITS'
          : 'BYTES';
  const scale = parameter && scaleOf(parameter);
  const plain = type === 'BOOL' || type === 'BYTES' || type === 'STRING';
  // A member that is narrower than its type keeps its sign.
  const narrowed =
    type === 'BITS' && declared !== undefined && readsOf({ type: declared }) === 'signed' && bits > 1;
  // The values of a bit string's enumeration are its bits (CIP Vol. 1, 7-3.6.6; from memory).
  const ofBits = declared !== undefined && /^(BYTE|[DL]?WORD)$/.test(declared) && bits > 1;
  const labels = labelsOf(parameter?.labels ?? []);
  const draft: FieldDraft = {
    id: `${name}_${at}`.slice(-40).replace(/^[^A-Za-z0-9]+/, ''),
    name,
    type,
    at,
    bits,
    text: characters ? { prefix, encoding: 'ascii', pad: 0 } : null,
    unit: plain ? '' : tidy(parameter?.unit ?? '', 16),
    note: tidy(parameter?.help ?? '', 200),
    sign: narrowed ? { way: 'complement' } : null,
    ...(ofBits
      ? {
          bitLabels: labels.flatMap(({ value, text }) =>
            value >= 0 && value < bits ? [{ bit: value, text }] : [],
          ),
        }
      : { labels }),
    ...(plain || !parameter ? {} : { limits: engineeringLimits(parameter, scale), scale: scale ?? null }),
  };
  return draftField(draft, said);
}

/**
 * Engineering value = (raw + offset) × multiplier × base / divider (CIP Vol. 1, 5-14.2.1.4); undefined where it is the
 * raw number.
 */
export function scaleOf({ scaling: s }: DescribedParameter): { factor: string; offset: string } | undefined {
  if (s.divider === 0) return undefined;
  const factor = new Fraction(s.multiplier).mul(s.base).div(s.divider);
  const offset = factor.mul(s.offset);
  if (factor.equals(0) || (factor.equals(1) && offset.equals(0))) return undefined;
  return { factor: factor.toFraction(), offset: offset.toFraction() };
}
