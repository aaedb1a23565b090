import type { Transition, WordProfile } from './wordProfile.js';

/**
 * The state machine of IEC 61800-7-201 (CiA 402): control word 6040h, status word 6041h, clause “finite state
 * automaton”, with the numbers of its transitions. Bits, patterns and numbers are from memory.
 */

/** Commands by bits 7, 3, 2, 1, 0 of the control word. */
const commands = {
  shutdown: { mask: 0x87, value: 0x06 },
  switchOn: { mask: 0x8f, value: 0x07 },
  enableOperation: { mask: 0x8f, value: 0x0f },
  disableVoltage: { mask: 0x82, value: 0x00 },
  quickStop: { mask: 0x86, value: 0x02 },
  faultReset: { mask: 0x80, value: 0x80 },
} as const;

const way = (
  number: string,
  [from, to]: readonly [string, string],
  title: string,
  command: keyof typeof commands | null,
): Transition => ({ number, from, to, title, command: command === null ? null : commands[command] });

export const cia402: WordProfile = {
  id: 'cia402',
  title: 'CiA 402',
  source: 'IEC 61800-7-201, finite state automaton; from memory',
  control: [
    { bit: 0, title: 'switch on', role: 'switch on' },
    { bit: 1, title: 'enable voltage', role: 'enable voltage' },
    { bit: 2, title: 'no quick stop', role: 'quick stop', inverted: true },
    { bit: 3, title: 'enable operation', role: 'enable' },
    { bit: 4, title: 'new set-point', role: 'setpoint strobe' },
    { bit: 6, title: 'relative', role: 'relative setpoint' },
    { bit: 7, title: 'fault reset', role: 'fault reset' },
    { bit: 8, title: 'halt', role: 'hold' },
  ],
  status: [
    { bit: 0, title: 'ready to switch on', role: 'ready to switch on' },
    { bit: 1, title: 'switched on', role: 'switched on' },
    { bit: 2, title: 'operation enabled', role: 'enabled' },
    { bit: 3, title: 'fault', role: 'faulted' },
    { bit: 4, title: 'voltage enabled', role: 'voltage enabled' },
    { bit: 5, title: 'no quick stop', role: 'quick stop active', inverted: true },
    { bit: 6, title: 'switch on disabled', role: 'switch on disabled' },
    { bit: 7, title: 'warning', role: 'warning' },
    { bit: 9, title: 'remote', role: 'network has control' },
    { bit: 10, title: 'target reached', role: 'target reached' },
    { bit: 11, title: 'internal limit active', role: 'limit active' },
    { bit: 12, title: 'set-point acknowledge', role: 'setpoint acknowledge' },
    { bit: 13, title: 'following error', role: 'following error' },
  ],
  states: [
    { id: 'fault reaction', title: 'Fault reaction active', status: { mask: 0x4f, value: 0x0f } },
    { id: 'fault', title: 'Fault', status: { mask: 0x4f, value: 0x08 } },
    { id: 'not ready', title: 'Not ready to switch on', status: { mask: 0x4f, value: 0x00 } },
    { id: 'disabled', title: 'Switch on disabled', status: { mask: 0x4f, value: 0x40 } },
    { id: 'ready', title: 'Ready to switch on', status: { mask: 0x6f, value: 0x21 } },
    { id: 'switched on', title: 'Switched on', status: { mask: 0x6f, value: 0x23 } },
    { id: 'enabled', title: 'Operation enabled', status: { mask: 0x6f, value: 0x27 } },
    { id: 'quick stop', title: 'Quick stop active', status: { mask: 0x6f, value: 0x07 } },
  ],
  transitions: [
    way('1', ['not ready', 'disabled'], 'by itself', null),
    way('2', ['disabled', 'ready'], 'Shutdown', 'shutdown'),
    way('7', ['ready', 'disabled'], 'Disable voltage', 'disableVoltage'),
    way('7', ['ready', 'disabled'], 'Quick stop', 'quickStop'),
    way('3', ['ready', 'switched on'], 'Switch on', 'switchOn'),
    // Both at once go through Switched on (transitions 3 and 4).
    way('3', ['ready', 'switched on'], 'Switch on and enable', 'enableOperation'),
    way('10', ['switched on', 'disabled'], 'Disable voltage', 'disableVoltage'),
    way('10', ['switched on', 'disabled'], 'Quick stop', 'quickStop'),
    way('6', ['switched on', 'ready'], 'Shutdown', 'shutdown'),
    way('4', ['switched on', 'enabled'], 'Enable operation', 'enableOperation'),
    way('9', ['enabled', 'disabled'], 'Disable voltage', 'disableVoltage'),
    way('11', ['enabled', 'quick stop'], 'Quick stop', 'quickStop'),
    way('8', ['enabled', 'ready'], 'Shutdown', 'shutdown'),
    way('5', ['enabled', 'switched on'], 'Disable operation', 'switchOn'),
    way('12', ['quick stop', 'disabled'], 'Disable voltage', 'disableVoltage'),
    way('16', ['quick stop', 'enabled'], 'Enable operation', 'enableOperation'),
    way('14', ['fault reaction', 'fault'], 'by itself', null),
    { ...way('15', ['fault', 'disabled'], 'Fault reset', 'faultReset'), rises: 7 },
  ],
  line: ['disabled', 'ready', 'switched on', 'enabled'],
};

/** Modes of operation (object 6060h); from memory. */
export const operatingModes: Readonly<Record<number, string>> = {
  ...{ 0: 'no mode', 1: 'profile position', 2: 'velocity', 3: 'profile velocity', 4: 'profile torque' },
  ...{ 6: 'homing', 7: 'interpolated position', 8: 'cyclic synchronous position' },
  ...{ 9: 'cyclic synchronous velocity', 10: 'cyclic synchronous torque' },
};

/** Bits 10, 12 and 13 of the status word in words, as the mode has them; from memory. */
export function modeText(mode: number, status: number): string {
  const bit = (n: number) => ((status >> n) & 1) === 1;
  switch (mode) {
    case 1:
      return [
        bit(10) ? 'target reached' : 'under way',
        bit(12) ? 'set-point acknowledged' : 'takes a new set-point',
        ...(bit(13) ? ['following error'] : []),
      ].join(', ');
    case 3:
      return [
        bit(10) ? 'at its speed' : 'changes its speed',
        ...(bit(12) ? ['speed is 0'] : []),
        ...(bit(13) ? ['largest slippage reached'] : []),
      ].join(', ');
    case 6: {
      const text: Readonly<Record<number, string>> = {
        ...{ 0b000: 'homing under way', 0b001: 'homing interrupted or not begun' },
        ...{ 0b010: 'homed, target not reached', 0b011: 'homed' },
        ...{ 0b100: 'homing error, still moving', 0b101: 'homing error, at rest' },
      };
      // Error, attained, target reached.
      return text[(Number(bit(13)) << 2) | (Number(bit(12)) << 1) | Number(bit(10))] ?? 'homing: reserved';
    }
    case 8:
    case 9:
    case 10:
      return [
        bit(12) ? 'follows the command' : 'ignores the command',
        ...(bit(13) ? ['following error'] : []),
      ].join(', ');
    default:
      return operatingModes[mode] ?? `mode ${mode}`;
  }
}
