import { protocolOf } from '../protocols/list.js';
import type { Device } from '../cell/model.js';
import type { Parameter } from '../devices/parameter.js';
import { decimalPlaces } from '../devices/decimalPlaces.js';
import { ParameterCodec } from '../devices/parameterCodec.js';
import { isNumber, limitsOf, readsOf } from '../layout/fieldTypes.js';
import { ratio, ratioNumber } from '../layout/ratio.js';
import { finding } from '../messages/finding.js';
import { Problem } from '../messages/problem.js';
import { placeText } from '../tables/parameterPlace.js';
import { eachDevice, groupsBy } from './rule.js';

/** What is wrong with the parameters of a device, as far as their table alone tells it. */

const at = (device: Device, { id }: Parameter) => ({ device: device.id, parameter: id });

/** Two parameters stand at one place, so whoever sets one sets the other. */
export const parameterPlaceTwice = eachDevice((device) =>
  groupsBy(
    device.description.parameters.filter((p) => p.place !== null),
    (p) => placeText(p.place),
  )
    .filter((group) => group.length > 1)
    .map((group) =>
      finding('parameter.placeTwice', 'error', at(device, group.at(-1)!), {
        device: device.name,
        parameters: group.map((p) => p.name).join(' and '),
        place: placeText(group[0]!.place),
      }),
    ),
);

/** A place that the protocol of none of the device's links has. */
export const parameterPlaceReached = eachDevice((device) => {
  const spoken = device.links.map(protocolOf);
  if (spoken.length === 0) return [];
  return device.description.parameters.flatMap((parameter) => {
    const { place, name } = parameter;
    if (!place || spoken.some((p) => p.parameterPlaces.includes(place.way))) return [];
    return finding('parameter.placeUnreached', 'warning', at(device, parameter), {
      device: device.name,
      parameter: name,
      place: placeText(place),
      protocols: [...new Set(spoken.map((p) => p.title))].join(', '),
    });
  });
});

/** Limits and initial value that contradict each other, or that the raw number cannot hold. */
export const parameterValues = eachDevice((device) => {
  const { parameters } = device.description;
  const places = decimalPlaces(parameters);
  return parameters.flatMap((parameter) => {
    const reason = troubleOf(parameter, places(parameter));
    if (!reason) return [];
    const facts = { device: device.name, parameter: parameter.name, reason };
    return finding('parameter.value', 'error', at(device, parameter), facts);
  });
});

/** `places`: decimal places that another parameter says. */
function troubleOf(parameter: Parameter, places: number): string | undefined {
  const { limits, initial, scale, type, bits } = parameter;
  const [minimum, maximum] = [limits?.minimum ?? null, limits?.maximum ?? null];
  const below = (a: string | null, b: string | null) =>
    a !== null && b !== null && ratio(a).compare(ratio(b)) < 0;
  if (below(maximum, minimum)) return `its minimum ${minimum} is above its maximum ${maximum}`;
  if (below(initial, minimum)) return `its default ${initial} is below its minimum ${minimum}`;
  if (below(maximum, initial)) return `its default ${initial} is above its maximum ${maximum}`;
  const unplanned = plannedTrouble(parameter, places);
  if (unplanned) return unplanned;
  if (!isNumber({ type }) || readsOf({ type }) === 'float') return undefined;
  const range = limitsOf(type, bits);
  for (const value of [minimum, maximum, initial]) {
    if (value === null) continue;
    const raw = ratio(value)
      .sub(ratio(scale?.offset ?? '0'))
      .div(ratio(scale?.factor ?? '1'));
    if (raw.d !== 1n)
      return `${value} is no whole raw number of a ${type}: its factor is missing or too coarse`;
    const number = raw.n * raw.s;
    if (number < BigInt(range.minimum) || number > BigInt(range.maximum))
      return `${value} is the raw number ${number}, which a ${type} of ${bits} bits cannot hold`;
  }
  return undefined;
}

/** What keeps the planned value from being written. */
function plannedTrouble(parameter: Parameter, places: number): string | undefined {
  const { planned, limits, access } = parameter;
  if (planned === null) return undefined;
  if (access === 'read') return 'a value is planned for it, and it can only be read';
  try {
    const codec = new ParameterCodec(parameter, places);
    const value = codec.number(codec.written(planned));
    const [minimum, maximum] = [limits?.minimum ?? null, limits?.maximum ?? null];
    if (minimum !== null && value < ratioNumber(minimum)) return `${planned} is below its minimum ${minimum}`;
    if (maximum !== null && value > ratioNumber(maximum)) return `${planned} is above its maximum ${maximum}`;
    return undefined;
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return error.message.replace(/\.$/, '');
  }
}

/** The decimal point of a field is said by a parameter that the device is not known to have. */
export const decimalsByParameter = eachDevice((device) => {
  const { parameters } = device.description;
  // Where nobody has entered any, nothing can be missed.
  if (parameters.length === 0) return [];
  const known = new Set(parameters.flatMap((p) => [p.name.toLowerCase(), p.code.toLowerCase()]));
  return device.links.flatMap((link) =>
    [link.command, link.feedback].flatMap((image) =>
      image.fields.flatMap(({ id, name, decimals }) =>
        decimals?.way === 'parameter' && !known.has(decimals.parameter.toLowerCase())
          ? finding(
              'field.parameterUnknown',
              'warning',
              { device: device.id, image: image.id, field: id },
              { device: device.name, field: name, parameter: decimals.parameter },
            )
          : [],
      ),
    ),
  );
});
