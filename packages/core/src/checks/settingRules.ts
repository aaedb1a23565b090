import type { Device } from '../cell/model.js';
import type { Parameter } from '../devices/parameter.js';
import type { Role } from '../layout/role.js';
import { finding, type Finding } from '../messages/finding.js';
import { expectedLabel, means, numberMeaning, type Meaning } from '../devices/settingMeaning.js';
import { compareParameters, type ComparedParameter } from '../parameters/compare.js';
import { planValue } from '../parameters/planValue.js';
import { eachDevice } from './rule.js';

/**
 * What parameters are planned to be, else what they leave the factory with, against what the cell needs of the device.
 */

/** The edit that plans the label with a meaning, where there is one. */
function planned(device: Device, parameter: Parameter, meaning: Meaning): Finding['fix'] {
  const to = numberMeaning(parameter, meaning);
  return to === undefined ? undefined : planValue(device, parameter, String(to));
}

/** The parameters with a role whose expected label is known. */
const settings = (device: Device, ...roles: Role[]): { parameter: Parameter; label: string }[] =>
  device.description.parameters.flatMap((parameter) => {
    const label = parameter.role && roles.includes(parameter.role.is) ? expectedLabel(parameter) : undefined;
    return label === undefined ? [] : [{ parameter, label }];
  });

const commandsBy = (device: Device, ...roles: Role[]): boolean =>
  device.links.some(({ command }) =>
    command.fields.some(
      ({ role, bitRoles }) =>
        (role && roles.includes(role.is)) || bitRoles.some((b) => roles.includes(b.role.is)),
    ),
  );

const factsOf = (device: Device, parameter: Parameter, label: string) => ({
  ...{ device: device.name, parameter: parameter.name, label },
  planned: parameter.planned !== null,
});
const at = (device: Device, parameter: Parameter) => ({ device: device.id, parameter: parameter.id });

/** A setting that is to mean something else, with the edit that plans it. */
const shouldMean = (
  meaning: Meaning,
  code: 'parameter.notNetwork' | 'parameter.noLossReaction' | 'parameter.addressAsked',
  device: Device,
  { parameter, label }: { parameter: Parameter; label: string },
): Finding =>
  finding(
    code,
    'warning',
    at(device, parameter),
    factsOf(device, parameter, label),
    planned(device, parameter, meaning),
  );

/** A command image has a start or a speed, and the device takes it from somewhere else. */
export const networkDoesNotCommand = eachDevice((device) =>
  (
    [
      ['start source', ['start', 'forward', 'reverse', 'enable', 'switch on']],
      ['reference source', ['speed reference', 'torque reference', 'position setpoint']],
    ] as const
  ).flatMap(([source, commands]) => {
    if (!commandsBy(device, ...commands)) return [];
    // A bit of the command image that hands over control does the same.
    if (commandsBy(device, source === 'start source' ? 'network control' : 'network reference')) return [];
    return settings(device, source).flatMap((setting) =>
      means(setting.label, 'network') ? [] : shouldMean('network', 'parameter.notNetwork', device, setting),
    );
  }),
);

/** Nothing is planned for the loss of the network, and the factory goes on as if nothing had happened. */
export const lossWithoutReaction = eachDevice((device) =>
  device.links.some((link) => link.onLoss === 'drop')
    ? settings(device, 'loss reaction').flatMap((setting) =>
        means(setting.label, 'carry on') && !means(setting.label, 'stop')
          ? shouldMean('stop', 'parameter.noLossReaction', device, setting)
          : [],
      )
    : [],
);

/** The address of the plan is fixed, and the device asks a server for one at each start. */
export const addressStillAsked = eachDevice((device) =>
  settings(device, 'address method').flatMap((setting) =>
    means(setting.label, 'asks') ? shouldMean('fixed', 'parameter.addressAsked', device, setting) : [],
  ),
);

/** The device sends values in another byte order than its images are laid out in. */
export const orderAgainstSetting = eachDevice((device) => {
  const orders = new Set(device.links.flatMap(({ command, feedback }) => [command.order, feedback.order]));
  if (orders.size !== 1) return [];
  const low = orders.has('little');
  if (!low && !orders.has('big')) return [];
  const [wanted, other] = low
    ? (['low end first', 'high end first'] as const)
    : (['high end first', 'low end first'] as const);
  return settings(device, 'value order').flatMap(({ parameter, label }) =>
    means(label, other) && !means(label, wanted)
      ? finding(
          'parameter.orderDiffers',
          'warning',
          at(device, parameter),
          { ...factsOf(device, parameter, label), order: low ? 'low byte first' : 'high byte first' },
          planned(device, parameter, wanted),
        )
      : [],
  );
});

/** A port of an IO-Link master that stays without load power, or in another mode, although its data are laid out. */
export const portNotReady = eachDevice((device) =>
  device.kind !== 'IO-Link master'
    ? []
    : settings(device, 'load power', 'port mode').flatMap(({ parameter, label }) => {
        const { is, number } = parameter.role!;
        const laidOut = device.links.some(({ feedback }) =>
          feedback.fields.some(
            ({ role }) => role?.number === number && ['port valid', 'analogue input'].includes(role.is),
          ),
        );
        const wanted = is === 'load power' ? 'on' : 'IO-Link';
        const dead = is === 'load power' ? !means(label, 'on') : /\b(off|inactive|disabled)\b/i.test(label);
        return laidOut && dead
          ? finding(
              'parameter.portNotReady',
              'warning',
              at(device, parameter),
              { ...factsOf(device, parameter, label), port: number ?? 1 },
              planned(device, parameter, wanted),
            )
          : [];
      }),
);

/**
 * What a number is planned to be, else what it leaves the factory with, with its text; undefined where neither is
 * known.
 */
const expected = (compared: ComparedParameter): { number: number; text: string } | undefined => {
  const value = compared.values.planned ?? compared.values.default;
  return value && 'hex' in value ? value : undefined;
};

/** The parameters of a device with one of these roles, and what they are expected to be. */
function withRole({ description: { parameters } }: Device, ...roles: Role[]): ComparedParameter[] {
  const rows = parameters.filter(({ role }) => role && roles.includes(role.is));
  return rows.length === 0 ? [] : compareParameters(parameters, {}, rows);
}

/** The process data of a port have another length than those of the device that is planned there. */
export const portLengthDiffers = eachDevice((device) => {
  const { ports } = device.description;
  if (ports.length === 0) return [];
  return withRole(device, ...portLengths).flatMap((compared) => {
    const { parameter } = compared;
    const side = sides[parameter.role!.is];
    const held = ports.find(({ port }) => port === (parameter.role?.number ?? 1));
    const now = expected(compared);
    if (!side || !held || !now || now.number === held[side]) return [];
    const bytes = held[side];
    const facts = { device: device.name, parameter: parameter.name, port: held.port, planned: now.text };
    return finding(
      'parameter.portLength',
      'warning',
      at(device, parameter),
      { ...facts, at: held.name, bytes },
      planValue(device, parameter, String(bytes)),
    );
  });
});
const sides: Partial<Record<Role, 'inputBytes' | 'outputBytes'>> = {
  'port input length': 'inputBytes',
  'port output length': 'outputBytes',
};
const portLengths = Object.keys(sides) as Role[];

/** A limit that lies above what the nameplate of the motor says, as far as both stand in the same unit. */
export const limitBeyondNameplate = eachDevice((device) =>
  (
    [
      ['highest speed', 'rated speed'],
      ['current limit', 'rated current'],
    ] as const
  ).flatMap(([limit, rated]) =>
    withRole(device, limit).flatMap((one) =>
      withRole(device, rated).flatMap((nameplate) => {
        const [most, plate] = [expected(one), expected(nameplate)];
        const same = one.parameter.unit === nameplate.parameter.unit;
        if (!same || !most || !plate || !(plate.number > 0) || !(most.number > plate.number)) return [];
        return finding('parameter.beyondNameplate', 'notice', at(device, one.parameter), {
          ...{ device: device.name, parameter: one.parameter.name, value: most.text },
          ...{ rated: plate.text, nameplate: nameplate.parameter.name },
        });
      }),
    ),
  ),
);

/** A parameter behind a port of which nobody has said how it is asked for. */
export const portPlaceReached = eachDevice((device) => {
  if (device.description.portRules?.requests) return [];
  const parameter = device.description.parameters.find(({ place }) => place?.way === 'port');
  if (parameter?.place?.way !== 'port') return [];
  const { port } = parameter.place;
  return finding('parameter.portPlace', 'warning', at(device, parameter), {
    ...{ device: device.name, parameter: parameter.name, port },
  });
});
