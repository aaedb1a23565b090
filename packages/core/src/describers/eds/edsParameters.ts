import { Parameter, type ParameterPlace } from '../../devices/parameter.js';
import { decodePath, encodePath, logical, type LogicalType } from '../../protocols/ethernetIp/path.js';
import { fieldTypes, readsOf, type FieldType } from '../../layout/fieldTypes.js';
import { ratio } from '../../layout/ratio.js';
import { parameterClass, parameterValue } from '../../tables/parameterPlace.js';
import { dataTypeOf, fieldTypeOf } from './dataTypes.js';
import { descriptorBits, type DescribedParameter, type Eds } from './eds.js';
import { bytesOfPath, hexPairs } from './hexPath.js';
import { engineering, engineeringLimits, type RawLimits } from '../shared/engineering.js';
import { narrow, type Exact } from '../shared/exact.js';
import { scaleOf } from './connectionImages.js';
import { labelsOf, tidy } from '../shared/fieldTexts.js';
import { plainScaling, scalingOf } from './scaling.js';

/** The parameters of a device and those of an electronic data sheet: one as the other. */

/** The attribute that a path names; undefined for any other path. */
function attributeOf(path: string): ParameterPlace | undefined {
  const parts: Partial<Record<LogicalType, number>> = {};
  try {
    for (const segment of decodePath(bytesOfPath(path))) {
      if (segment.segment !== 'logical' || segment.type in parts) return undefined;
      parts[segment.type] = segment.value;
    }
  } catch {
    return undefined;
  }
  const { class: object, instance, attribute, ...others } = parts;
  if (object === undefined || instance === undefined || attribute === undefined) return undefined;
  return Object.keys(others).length > 0
    ? undefined
    : { way: 'attribute', class: object, instance, attribute };
}

/**
 * A value that has another length than its type is raw bytes; so is a type that fields do not know. One without a
 * length has that of its type.
 */
function typeOf({ dataType, size }: DescribedParameter): FieldType {
  const declared = fieldTypeOf(dataType);
  if (declared && size === 0) return declared;
  return declared === 'BOOL' || (declared && fieldTypes[declared].bits === size * 8) ? declared : 'BYTES';
}

/** The parameters of a data sheet; what is only a member of an assembly is none: it is a field of an image. */
export function parametersOf(
  { parameters, groups, assemblies }: Pick<Eds, 'parameters' | 'groups' | 'assemblies'>,
  newId: () => string,
): Parameter[] {
  const members = new Set(
    assemblies.flatMap((a) =>
      a.members.flatMap(({ refers }) => (refers.to === 'parameter' ? refers.number : [])),
    ),
  );
  const groupOf = new Map(groups.flatMap((g) => g.parameters.map((number) => [number, g.name] as const)));
  return parameters.flatMap((p) => {
    const place = attributeOf(p.path) ?? null;
    if (!place && members.has(p.number)) return [];
    const type = typeOf(p);
    const number = type !== 'BYTES' && type !== 'BOOL';
    const scale = (number && scaleOf(p)) || null;
    const plain = {
      id: newId(),
      code: String(p.number),
      name: tidy(p.name, 64) || `Param${p.number}`,
      group: tidy(groupOf.get(p.number) ?? '', 64),
      place,
      type,
      bits: fieldTypes[type].bits ?? (p.size || 1) * 8,
      access: p.descriptor & descriptorBits.readOnly ? 'read' : 'read-write',
      note: tidy(p.help, 200),
    };
    const parsed = Parameter.safeParse({
      ...plain,
      scale,
      unit: tidy(p.unit, 16),
      limits: number ? engineeringLimits(p, scale ?? undefined) : null,
      initial: number && p.initial !== null ? engineering(p.initial, scale ?? undefined) : null,
      labels: labelsOf(p.labels),
    });
    // What a parameter cannot keep is left out of it, not the parameter.
    return parsed.data ?? Parameter.safeParse(plain).data ?? [];
  });
}

/** The raw number of an engineering value; null where there is none, or where no raw number means it. */
function rawOf(value: string | null, scale: Parameter['scale'], float: boolean): Exact | null {
  if (value === null) return null;
  const raw = ratio(value)
    .sub(ratio(scale?.offset ?? '0'))
    .div(ratio(scale?.factor ?? '1'));
  if (float) return raw.valueOf();
  return raw.d === 1n ? narrow(raw.n * raw.s) : null;
}

/** The raw numbers of engineering limits. */
export function rawLimits(limits: Parameter['limits'], scale: Parameter['scale'], float: boolean): RawLimits {
  const [a, b] = [limits?.minimum, limits?.maximum].map((value) => rawOf(value ?? null, scale, float)) as [
    Exact | null,
    Exact | null,
  ];
  // A negative factor turns the ends round.
  return scale && ratio(scale.factor).s < 0n ? { minimum: b, maximum: a } : { minimum: a, maximum: b };
}

/** The number of a parameter that is an instance of the Parameter object; undefined for another. */
export const instanceNumber = ({ place }: Parameter): number | undefined =>
  place?.way === 'attribute' &&
  place.class === parameterClass &&
  place.attribute === parameterValue &&
  place.instance > 0
    ? place.instance
    : undefined;

/**
 * A parameter of a device as a data sheet has it. One that is an instance of the Parameter object keeps its number;
 * `free` gives the others theirs. Undefined for one that CIP cannot reach.
 */
export function describedParameter(
  parameter: Parameter,
  free: (wanted: number | undefined) => number,
): DescribedParameter | undefined {
  const { place, type, bits, access, limits, labels } = parameter;
  if (place?.way !== 'attribute') return undefined;
  const scaling = scalingOf(parameter.scale);
  const float = readsOf(parameter) === 'float';
  const { minimum, maximum } = rawLimits(limits, parameter.scale, float);
  return {
    number: free(instanceNumber(parameter)),
    path: hexPairs(
      encodePath([
        logical('class', place.class),
        logical('instance', place.instance),
        logical('attribute', place.attribute),
      ]),
    ),
    descriptor:
      (labels.length > 0 ? descriptorBits.enumerated : 0) |
      (scaling === plainScaling ? 0 : descriptorBits.scaled) |
      (access === 'read' ? descriptorBits.readOnly : 0),
    initialText: '',
    dataType: dataTypeOf(type, bits),
    size: Math.ceil(bits / 8),
    name: parameter.name,
    unit: parameter.unit,
    help: parameter.note,
    minimum,
    maximum,
    initial: rawOf(parameter.initial, parameter.scale, float),
    scaling,
    decimals: 0,
    labels: labels.map(({ value, text }) => ({ value, text })),
  };
}
