import type { Field } from '../../layout/field.js';
import type { Image } from '../../layout/image.js';
import type { Device } from '../../cell/model.js';
import { encodePath, logical } from '../../protocols/ethernetIp/path.js';
import { readsOf } from '../../layout/fieldTypes.js';
import { signalsOf, type Signal } from '../../layout/signals.js';
import { dataTypeOf } from './dataTypes.js';
import {
  descriptorBits,
  type AssemblyMember,
  type DescribedAssembly,
  type DescribedGroup,
  type DescribedParameter,
  type Eds,
} from './eds.js';
import { hexPairs } from './hexPath.js';
import { describedParameter, instanceNumber, rawLimits } from './edsParameters.js';
import { ratio } from '../../layout/ratio.js';
import { plainScaling, scalingOf } from './scaling.js';

/** CIP class 4. */
const assemblyClass = 4;
const flags = {
  cyclic: 1 << 16,
  changeOfState: 1 << 17,
  listenOnly: 1 << 24,
  inputOnly: 1 << 25,
  exclusiveOwner: 1 << 26,
} as const;

/**
 * A device of a cell as a describer: for a device of which the maker gives none. What a data sheet cannot say (sign
 * bits, decimal points in other fields, groups as such) is left to the cell file; every signal keeps its name, place,
 * length, type, scale, unit and labels.
 */
export function describerOf(device: Device): Eds {
  const { parameters, groups, free } = numbered(device);
  const assemblies: DescribedAssembly[] = [];
  const connections: Eds['connections'] = [];
  for (const link of device.links) {
    if (link.protocol !== 'ethernet-ip') continue;
    const numbers = [link.command, link.feedback].map((image) => {
      if (image.size === 0) return null;
      const number = assemblies.length + 1;
      assemblies.push(assemblyOf(image, number, parameters, free));
      return number;
    });
    const format = (number: number | null | undefined) => (number ? { assembly: number } : null);
    const kind =
      link.connection === 'listen-only'
        ? flags.listenOnly
        : link.connection === 'input-only'
          ? flags.inputOnly
          : flags.exclusiveOwner;
    const formats =
      (link.commandFormat === 'run-idle' ? 4 << 8 : 0) | (link.feedbackFormat === 'run-idle' ? 4 << 12 : 0);
    // Fixed sizes; point-to-point commands; feedback as the link has it.
    const types = 5 | (4 << 16) | ((link.toController === 'multicast' ? 2 : 4) << 20);
    const { configuration } = link;
    connections.push({
      number: connections.length + 1,
      triggers:
        (kind | flags.cyclic | (link.trigger === 'change-of-state' ? flags.changeOfState : 0) | 2) >>> 0,
      parameters: (formats | types) >>> 0,
      command: {
        rpi: { value: link.commandRpi },
        size: { value: link.command.size },
        format: format(numbers[0]),
      },
      feedback: {
        rpi: { value: link.feedbackRpi },
        size: { value: link.feedback.size },
        format: format(numbers[1]),
      },
      proxyConfiguration: { size: null, format: null },
      configuration: { size: { value: configuration.data.length / 2 }, format: null },
      name: link.connection,
      help: '',
      path: hexPairs(
        encodePath([
          logical('class', assemblyClass),
          logical('instance', configuration.instance),
          logical('connectionPoint', link.command.instance),
          logical('connectionPoint', link.feedback.instance),
        ]),
      ),
    });
  }
  const { identity } = device;
  return {
    source: 'eds',
    file: {
      text: `${identity.productName || device.name}, written from a cell`,
      createDate: '',
      createTime: '',
      modifiedDate: '',
      modifiedTime: '',
      revision: '1.0',
      homeUrl: '',
    },
    device: {
      vendor: identity.vendor,
      vendorName: device.maker,
      deviceType: identity.deviceType,
      deviceTypeName: device.kind,
      productCode: identity.productCode,
      majorRevision: identity.majorRevision,
      minorRevision: identity.minorRevision,
      productName: identity.productName,
      catalog: device.orderNumber,
      classification: ['EtherNetIP'],
    },
    parameters,
    assemblies,
    connections,
    groups,
    ports: [],
    capacity: {
      messageConnections: null,
      ioProducers: null,
      ioConsumers: null,
      cipConnections: null,
      traffic: [],
    },
    kept: [],
  };
}

/** The parameters that CIP reaches with their groups, and numbers for the others: the lowest that none of them has. */
function numbered({ description: { parameters: own } }: Device): {
  parameters: DescribedParameter[];
  groups: DescribedGroup[];
  free: () => number;
} {
  const taken = new Set(own.map(instanceNumber));
  const given = new Set<number>();
  let next = 1;
  const free = (wanted?: number): number => {
    if (wanted !== undefined && wanted > 0 && !given.has(wanted)) next = wanted;
    else {
      next = 1;
      while (taken.has(next) || given.has(next)) next += 1;
    }
    given.add(next);
    return next;
  };
  const groups: DescribedGroup[] = [];
  const parameters = own.flatMap((parameter) => {
    const described = describedParameter(parameter, free);
    if (!described) return [];
    const { group: name } = parameter;
    const group = groups.find((g) => g.name === name);
    if (group) group.parameters.push(described.number);
    else if (name) groups.push({ number: groups.length + 1, name, parameters: [described.number] });
    return [described];
  });
  return { parameters, groups, free };
}

function assemblyOf(
  image: Image,
  number: number,
  parameters: DescribedParameter[],
  free: () => number,
): DescribedAssembly {
  const members: AssemblyMember[] = [];
  let at = 0;
  const padding = (to: number) => {
    if (to > at) members.push({ bits: to - at, refers: { to: 'nothing' } });
  };
  for (const signal of [...signalsOf(image)].sort((a, b) => a.at - b.at)) {
    // Of two fields over the same bits a data sheet can name one.
    if (signal.at < at || signal.at + signal.bits > image.size * 8) continue;
    padding(signal.at);
    const field = image.fields.find((f) => f.id === signal.of);
    const parameter = parameterOf(signal, field, free(), image.direction === 'feedback');
    parameters.push(parameter);
    members.push({ bits: signal.bits, refers: { to: 'parameter', number: parameter.number } });
    at = signal.at + signal.bits;
  }
  padding(image.size * 8);
  return {
    number,
    name: image.direction,
    path: hexPairs(
      encodePath([
        logical('class', assemblyClass),
        logical('instance', image.instance),
        logical('attribute', 3),
      ]),
    ),
    size: image.size,
    descriptor: 0,
    members,
  };
}

function parameterOf(
  signal: Signal,
  field: Field | undefined,
  number: number,
  readOnly: boolean,
): DescribedParameter {
  // The texts of a bit string are those of its bits: what has texts for its values is a number.
  const values = field?.labels ?? [];
  const ofBits = values.length === 0 ? (field?.bitLabels ?? []) : [];
  const labels = [...values, ...ofBits.map(({ bit, text }) => ({ value: bit, text }))];
  const scale = scaleWith(field);
  const scaling = scalingOf(scale);
  // A scale that the whole numbers of a data sheet cannot hold is left out, and the limits with it.
  const kept = scale === null || scaling !== plainScaling;
  const limits = kept ? rawLimits(field?.limits ?? null, scale, readsOf(signal) === 'float') : null;
  return {
    number,
    path: '',
    descriptor:
      (labels.length > 0 ? descriptorBits.enumerated : 0) |
      (scaling === plainScaling ? 0 : descriptorBits.scaled) |
      (readOnly ? descriptorBits.readOnly : 0),
    dataType: dataTypeOf(typeFor(signal, values.length > 0, ofBits.length > 0), signal.bits, signal.text),
    size: Math.ceil(signal.bits / 8),
    name: signal.name,
    unit: field?.unit ?? '',
    help: field?.note ?? '',
    minimum: limits?.minimum ?? null,
    maximum: limits?.maximum ?? null,
    initial: null,
    initialText: '',
    scaling,
    decimals: 0,
    labels: labels.map(({ value, text }) => ({ value, text })),
  };
}

/** The scale of a field with its fixed decimal places: value = raw / 10^places × factor + offset. */
function scaleWith(field: Field | undefined): Field['scale'] {
  const places = field?.decimals?.way === 'fixed' ? field.decimals.places : 0;
  if (!field || places === 0) return field?.scale ?? null;
  const factor = ratio(field.scale?.factor ?? '1').div(10 ** places);
  return { factor: factor.toFraction(), offset: field.scale?.offset ?? '0' };
}

/** The type of a signal by what its texts are for: a number for values, a bit string for bits. */
function typeFor({ type, bits }: Signal, values: boolean, ofBits: boolean): Signal['type'] {
  if (readsOf({ type }) !== 'unsigned' || bits < 2) return type;
  if (values) return bits <= 8 ? 'USINT' : bits <= 16 ? 'UINT' : bits <= 32 ? 'UDINT' : 'ULINT';
  if (ofBits) return bits <= 8 ? 'BYTE' : bits <= 16 ? 'WORD' : bits <= 32 ? 'DWORD' : 'LWORD';
  return type;
}
