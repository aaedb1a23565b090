import type { Device } from '../cell/model.js';
import type { Parameter } from '../devices/parameter.js';
import type { Role } from '../layout/role.js';
import { finding, type Finding } from '../messages/finding.js';
import { expectedLabel, means, numberMeaning, type Meaning } from '../devices/settingMeaning.js';
import type { Rule } from './rule.js';

/**
 * What parameters are planned to be, else what they leave the factory with, against what the cell needs of the device.
 */

/** The edit that plans the label with a meaning, where there is one. */
function planned(device: Device, parameter: Parameter, meaning: Meaning): Finding['fix'] {
  const to = numberMeaning(parameter, meaning);
  const label = parameter.labels.find(({ value }) => value === to)?.text;
  if (to === undefined || label === undefined) return undefined;
  const title = `plan ${label} for ${parameter.name}`.slice(0, 80).trim();
  return {
    title: `Plan ${label}`,
    edit: {
      ...{ edit: 'parameters.arrange', device: device.id, title },
      parameters: [{ ...parameter, planned: String(to) }],
    },
  };
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

/** A command image has a start or a speed, and the device takes it from somewhere else. */
export const networkDoesNotCommand: Rule = ({ devices }) =>
  devices.flatMap((device) =>
    (
      [
        ['start source', ['start', 'forward', 'reverse', 'enable', 'switch on']],
        ['reference source', ['speed reference', 'torque reference', 'position setpoint']],
      ] as const
    ).flatMap(([source, commands]) => {
      if (!commandsBy(device, ...commands)) return [];
      // A bit of the command image that hands over control does the same.
      if (commandsBy(device, source === 'start source' ? 'network control' : 'network reference')) return [];
      return settings(device, source).flatMap(({ parameter, label }) =>
        means(label, 'network')
          ? []
          : finding(
              'parameter.notNetwork',
              'warning',
              at(device, parameter),
              factsOf(device, parameter, label),
              planned(device, parameter, 'network'),
            ),
      );
    }),
  );

/** Nothing is planned for the loss of the network, and the factory goes on as if nothing had happened. */
export const lossWithoutReaction: Rule = ({ devices }) =>
  devices.flatMap((device) =>
    device.links.some((link) => link.onLoss === 'drop')
      ? settings(device, 'loss reaction').flatMap(({ parameter, label }) =>
          means(label, 'carry on') && !means(label, 'stop')
            ? finding(
                'parameter.noLossReaction',
                'warning',
                at(device, parameter),
                factsOf(device, parameter, label),
                planned(device, parameter, 'stop'),
              )
            : [],
        )
      : [],
  );

/** The address of the plan is fixed, and the device asks a server for one at each start. */
export const addressStillAsked: Rule = ({ devices }) =>
  devices.flatMap((device) =>
    settings(device, 'address method').flatMap(({ parameter, label }) =>
      means(label, 'asks')
        ? finding(
            'parameter.addressAsked',
            'warning',
            at(device, parameter),
            factsOf(device, parameter, label),
            planned(device, parameter, 'fixed'),
          )
        : [],
    ),
  );

/** The device sends values in another byte order than its images are laid out in. */
export const orderAgainstSetting: Rule = ({ devices }) =>
  devices.flatMap((device) => {
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
export const portNotReady: Rule = ({ devices }) =>
  devices.flatMap((device) =>
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
