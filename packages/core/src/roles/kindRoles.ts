import type { DeviceKind } from '../devices/kinds.js';
import type { Role } from '../layout/role.js';

/** What devices of a kind need of roles to be worked with at all, and all that they usually have. */
export interface KindRoles {
  /** Of each of these one. */
  needs: readonly (readonly [Role, ...Role[]])[];
  usual: readonly Role[];
}

const drive: KindRoles = {
  needs: [['speed reference'], ['running', 'runs forward', 'program running']],
  usual: [
    ...(['start', 'stop', 'forward', 'reverse', 'jog', 'direction', 'enable', 'quick stop'] as const),
    ...([
      'fault reset',
      'network control',
      'network reference',
      'speed actual',
      'at speed',
      'ready',
    ] as const),
    ...(['faulted', 'warning', 'fault code', 'network has control', 'network has reference'] as const),
    ...(['runs forward', 'runs reverse', 'motor current', 'torque actual', 'acceleration'] as const),
    ...(['deceleration', 'control word', 'status word', 'bus voltage', 'output voltage'] as const),
    ...(['operating time', 'energy', 'start count', 'ramping', 'state number'] as const),
  ],
};

/** By kind of device; common practice, no source. */
const kindRoles: Readonly<Record<DeviceKind, KindRoles>> = {
  'variable-speed drive': drive,
  'soft starter': {
    ...drive,
    needs: [
      ['start', 'cycle start', 'forward'],
      ['running', 'runs forward', 'program running'],
    ],
  },
  'servo axis': {
    needs: [['enable'], ['position setpoint'], ['position actual']],
    usual: [
      ...(['velocity', 'acceleration', 'deceleration', 'setpoint strobe', 'setpoint acknowledge'] as const),
      ...(['target reached', 'home', 'homed', 'fault reset', 'faulted', 'fault code', 'enabled'] as const),
      ...(['ready', 'jog', 'operating mode', 'mode shown', 'control word', 'status word'] as const),
      ...(['following error', 'speed actual', 'torque actual', 'quick stop', 'warning'] as const),
      ...(['switch on', 'enable voltage', 'relative setpoint', 'hold', 'ready to switch on'] as const),
      ...(['switched on', 'voltage enabled', 'quick stop active', 'switch on disabled'] as const),
      ...(['limit active', 'position lag', 'state number'] as const),
    ],
  },
  robot: {
    needs: [
      ['start', 'cycle start', 'forward'],
      ['running', 'runs forward', 'program running'],
    ],
    usual: [
      ...(['hold', 'cycle start', 'permissive', 'program number', 'program running', 'ready'] as const),
      ...(['faulted', 'fault reset', 'at home', 'home', 'part present', 'done', 'enable'] as const),
      ...(['emergency stop', 'heartbeat', 'program shown', 'open gripper', 'gripper closed'] as const),
      'cycle time',
    ],
  },
  'vision sensor': {
    needs: [['trigger'], ['result valid']],
    usual: [
      ...(['trigger ready', 'trigger acknowledge', 'busy', 'pass', 'fail', 'program number'] as const),
      ...(['program change', 'program changed', 'program shown', 'result acknowledge'] as const),
      ...(['result text', 'result length', 'measured value', 'faulted', 'fault code', 'ready'] as const),
      ...(['exposing', 'program changing', 'cycle time', 'count', 'enable', 'enabled'] as const),
    ],
  },
  'safety controller': {
    needs: [],
    usual: [
      ...(['safety in order', 'emergency stop', 'muted', 'beams', 'safety reset', 'faulted'] as const),
      ...(['fault code', 'input', 'output', 'object size', 'object position', 'life counter'] as const),
      ...(['reset wanted', 'safety tripped', 'ready'] as const),
    ],
  },
  'valve terminal': {
    needs: [['output']],
    usual: ['load power', 'overload', 'faulted', 'input', 'supply in order'],
  },
  weigher: {
    needs: [['gross', 'net']],
    usual: [
      ...(['net', 'tare', 'tare value', 'zero', 'stable', 'sign', 'decimals', 'overrange'] as const),
      ...(['command code', 'command value', 'command answer', 'faulted', 'fault code'] as const),
      ...(['warming up', 'at zero', 'tare applied', 'result valid', 'sequence number'] as const),
      'life counter',
    ],
  },
  marker: {
    needs: [['print', 'sequence number', 'trigger']],
    usual: [
      ...(['format number', 'variable text', 'sequence number', 'printed', 'busy', 'ready'] as const),
      ...(['faulted', 'fault code', 'warning', 'fault reset', 'copies', 'format shown'] as const),
      ...(['count', 'remaining', 'door open'] as const),
    ],
  },
  'process I/O': {
    needs: [],
    usual: [
      ...(['input', 'output', 'analogue input', 'analogue output', 'measured value', 'faulted'] as const),
      ...(['overrange', 'supply in order', 'life counter', 'filter time', 'offset'] as const),
    ],
  },
  'IO-Link master': {
    needs: [],
    usual: [
      ...(['port mode', 'port valid', 'load power', 'input', 'output', 'analogue input', 'faulted'] as const),
      ...(['analogue output', 'request port', 'request index', 'request value', 'request write'] as const),
      ...(['request go', 'request status', 'request answer'] as const),
    ],
  },
  'remote I/O': {
    needs: [],
    usual: [
      ...(['input', 'output', 'analogue input', 'analogue output', 'faulted', 'warning'] as const),
      ...(['load power', 'overload', 'heartbeat', 'fault code'] as const),
    ],
  },
  'motor starter': {
    needs: [['running', 'runs forward', 'program running']],
    usual: [
      ...(['start', 'stop', 'forward', 'reverse', 'fault reset', 'enable', 'ready', 'faulted'] as const),
      ...(['warning', 'fault code', 'overload', 'motor current', 'thermal load', 'runs forward'] as const),
      ...(['runs reverse', 'load power'] as const),
    ],
  },
  'identification reader': {
    needs: [['result valid']],
    usual: [
      ...(['trigger', 'enable', 'trigger ready', 'busy', 'result text', 'result length', 'fail'] as const),
      ...(['pass', 'result acknowledge', 'part present', 'faulted', 'fault code', 'ready'] as const),
      ...(['command code', 'command answer', 'sequence number', 'fault reset'] as const),
    ],
  },
  'torque tool': {
    needs: [
      ['start', 'cycle start', 'forward'],
      ['done', 'result valid'],
    ],
    usual: [
      ...(['enable', 'program number', 'direction', 'ready', 'running', 'pass', 'fail', 'busy'] as const),
      ...(['torque actual', 'angle actual', 'result valid', 'program shown', 'faulted'] as const),
      ...(['fault code', 'fault reset', 'sequence number', 'stop', 'result acknowledge'] as const),
    ],
  },
  'measuring sensor': {
    needs: [['measured value']],
    usual: [
      ...(['zero', 'overrange', 'stable', 'ready', 'faulted', 'warning', 'fault code', 'trigger'] as const),
      ...(['result valid', 'input', 'analogue input', 'life counter'] as const),
    ],
  },
  other: { needs: [], usual: [] },
};

export function rolesOfKind(kind: DeviceKind): KindRoles {
  const { needs, usual } = kindRoles[kind];
  return { needs, usual: [...new Set([...needs.flat(), ...usual])] };
}
