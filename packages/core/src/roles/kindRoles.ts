import type { DeviceKind } from '../devices/kinds.js';
import type { Role } from '../layout/role.js';

/** What devices of a kind need of roles to be worked with at all, and all that they usually have. */
export interface KindRoles {
  needs: readonly Role[];
  usual: readonly Role[];
}

const drive: KindRoles = {
  needs: ['speed reference', 'running'],
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
    ...(['deceleration', 'control word', 'status word'] as const),
  ],
};

/** By kind of device; common practice, no source. */
const kindRoles: Readonly<Record<DeviceKind, KindRoles>> = {
  'variable-speed drive': drive,
  'soft starter': { ...drive, needs: ['start', 'running'] },
  'servo axis': {
    needs: ['enable', 'position setpoint', 'position actual'],
    usual: [
      ...(['velocity', 'acceleration', 'deceleration', 'setpoint strobe', 'setpoint acknowledge'] as const),
      ...(['target reached', 'home', 'homed', 'fault reset', 'faulted', 'fault code', 'enabled'] as const),
      ...(['ready', 'jog', 'operating mode', 'mode shown', 'control word', 'status word'] as const),
      ...(['following error', 'speed actual', 'torque actual', 'quick stop', 'warning'] as const),
    ],
  },
  robot: {
    needs: ['start', 'running'],
    usual: [
      ...(['hold', 'cycle start', 'permissive', 'program number', 'program running', 'ready'] as const),
      ...(['faulted', 'fault reset', 'at home', 'home', 'part present', 'done', 'enable'] as const),
      ...(['emergency stop', 'heartbeat', 'program shown'] as const),
    ],
  },
  'vision sensor': {
    needs: ['trigger', 'result valid'],
    usual: [
      ...(['trigger ready', 'trigger acknowledge', 'busy', 'pass', 'fail', 'program number'] as const),
      ...(['program change', 'program changed', 'program shown', 'result acknowledge'] as const),
      ...(['result text', 'result length', 'measured value', 'faulted', 'fault code', 'ready'] as const),
    ],
  },
  'safety controller': {
    needs: [],
    usual: [
      ...(['safety in order', 'emergency stop', 'muted', 'beams', 'safety reset', 'faulted'] as const),
      ...(['fault code', 'input', 'output', 'object size', 'object position', 'life counter'] as const),
    ],
  },
  'valve terminal': { needs: ['output'], usual: ['load power', 'overload', 'faulted', 'input'] },
  weigher: {
    needs: ['gross'],
    usual: [
      ...(['net', 'tare', 'tare value', 'zero', 'stable', 'sign', 'decimals', 'overrange'] as const),
      ...(['command code', 'command value', 'command answer', 'faulted', 'fault code'] as const),
    ],
  },
  marker: {
    needs: ['print'],
    usual: [
      ...(['format number', 'variable text', 'sequence number', 'printed', 'busy', 'ready'] as const),
      ...(['faulted', 'fault code', 'warning', 'fault reset'] as const),
    ],
  },
  'process I/O': {
    needs: [],
    usual: ['input', 'output', 'analogue input', 'analogue output', 'measured value', 'faulted', 'overrange'],
  },
  'IO-Link master': {
    needs: [],
    usual: ['port mode', 'port valid', 'load power', 'input', 'output', 'analogue input', 'faulted'],
  },
  'remote I/O': {
    needs: [],
    usual: [
      ...(['input', 'output', 'analogue input', 'analogue output', 'faulted', 'warning'] as const),
      ...(['load power', 'overload', 'heartbeat', 'fault code'] as const),
    ],
  },
  'motor starter': {
    needs: ['running'],
    usual: [
      ...(['start', 'stop', 'forward', 'reverse', 'fault reset', 'enable', 'ready', 'faulted'] as const),
      ...(['warning', 'fault code', 'overload', 'motor current', 'thermal load', 'runs forward'] as const),
      ...(['runs reverse', 'load power'] as const),
    ],
  },
  'identification reader': {
    needs: ['result valid'],
    usual: [
      ...(['trigger', 'enable', 'trigger ready', 'busy', 'result text', 'result length', 'fail'] as const),
      ...(['pass', 'result acknowledge', 'part present', 'faulted', 'fault code', 'ready'] as const),
      ...(['command code', 'command answer', 'sequence number', 'fault reset'] as const),
    ],
  },
  'torque tool': {
    needs: ['start', 'done'],
    usual: [
      ...(['enable', 'program number', 'direction', 'ready', 'running', 'pass', 'fail', 'busy'] as const),
      ...(['torque actual', 'angle actual', 'result valid', 'program shown', 'faulted'] as const),
      ...(['fault code', 'fault reset', 'sequence number', 'stop', 'result acknowledge'] as const),
    ],
  },
  'measuring sensor': {
    needs: ['measured value'],
    usual: [
      ...(['zero', 'overrange', 'stable', 'ready', 'faulted', 'warning', 'fault code', 'trigger'] as const),
      ...(['result valid', 'input', 'analogue input', 'life counter'] as const),
    ],
  },
  other: { needs: [], usual: [] },
};

export function rolesOfKind(kind: DeviceKind): KindRoles {
  const { needs, usual } = kindRoles[kind];
  return { needs, usual: [...needs, ...usual] };
}
