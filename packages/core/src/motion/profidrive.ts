import type { WordProfile } from './wordProfile.js';

/**
 * PROFIdrive, IEC 61800-7-203: control word 1 and status word 1 in speed control, the general state diagram S1 to S5.
 * Bits and states are from memory.
 */
const onCommand = 0x0001;
const noStops = 0x0006;
const enableOperation = 0x0008;
const byController = 0x0400;

export const profidrive: WordProfile = {
  id: 'profidrive',
  title: 'PROFIdrive',
  source: 'IEC 61800-7-203, general state diagram; from memory',
  control: [
    { bit: 0, title: 'ON, 0 = OFF1', role: 'switch on' },
    { bit: 1, title: 'no coast stop (OFF2)', role: 'enable voltage' },
    { bit: 2, title: 'no quick stop (OFF3)', role: 'quick stop', inverted: true },
    { bit: 3, title: 'enable operation', role: 'enable' },
    { bit: 4, title: 'enable ramp generator', role: null },
    { bit: 5, title: 'unfreeze ramp generator', role: null },
    { bit: 6, title: 'enable set-point', role: null },
    { bit: 7, title: 'acknowledge fault', role: 'fault reset' },
    { bit: 8, title: 'jog 1', role: 'jog' },
    { bit: 10, title: 'control by PLC', role: 'network control' },
  ],
  status: [
    { bit: 0, title: 'ready to switch on', role: 'ready to switch on' },
    { bit: 1, title: 'ready to operate', role: 'switched on' },
    { bit: 2, title: 'operation enabled', role: 'enabled' },
    { bit: 3, title: 'fault present', role: 'faulted' },
    { bit: 4, title: 'no coast stop', role: 'voltage enabled' },
    { bit: 5, title: 'no quick stop', role: 'quick stop active', inverted: true },
    { bit: 6, title: 'switching on inhibited', role: 'switch on disabled' },
    { bit: 7, title: 'warning present', role: 'warning' },
    { bit: 8, title: 'speed within tolerance', role: null },
    { bit: 9, title: 'control requested', role: 'network has control' },
    { bit: 10, title: 'speed reached', role: 'at speed' },
  ],
  states: [
    { id: 'fault', title: 'Fault present', status: { mask: 0x08, value: 0x08 } },
    { id: 'inhibited', title: 'S1 Switching on inhibited', status: { mask: 0x40, value: 0x40 } },
    { id: 'ready', title: 'S2 Ready for switching on', status: { mask: 0x43, value: 0x01 } },
    { id: 'operation', title: 'S4 Operation', status: { mask: 0x67, value: 0x27 } },
    { id: 'switching off', title: 'S5 Switching off', status: { mask: 0x47, value: 0x07 } },
    { id: 'switched on', title: 'S3 Switched on', status: { mask: 0x47, value: 0x03 } },
  ],
  transitions: [
    // OFF1, and neither OFF2 nor OFF3.
    {
      ...{ number: '', from: 'inhibited', to: 'ready', title: 'OFF1, no OFF2, no OFF3' },
      command: { mask: onCommand | noStops | byController, value: noStops | byController },
    },
    {
      ...{ number: '', from: 'ready', to: 'switched on', title: 'ON' },
      command: { mask: onCommand | noStops | byController, value: onCommand | noStops | byController },
    },
    {
      ...{ number: '', from: 'ready', to: 'inhibited', title: 'Coast stop' },
      command: { mask: 0x0002, value: 0 },
    },
    {
      ...{ number: '', from: 'ready', to: 'inhibited', title: 'Quick stop' },
      command: { mask: 0x0004, value: 0 },
    },
    {
      ...{ number: '', from: 'switched on', to: 'inhibited', title: 'Coast stop' },
      command: { mask: 0x0002, value: 0 },
    },
    {
      ...{ number: '', from: 'switched on', to: 'ready', title: 'OFF1' },
      command: { mask: onCommand, value: 0 },
    },
    {
      ...{ number: '', from: 'switched on', to: 'operation', title: 'Enable operation' },
      command: { mask: onCommand | noStops | enableOperation, value: onCommand | noStops | enableOperation },
    },
    {
      ...{ number: '', from: 'operation', to: 'inhibited', title: 'Coast stop' },
      command: { mask: 0x0002, value: 0 },
    },
    {
      ...{ number: '', from: 'operation', to: 'switching off', title: 'Quick stop' },
      command: { mask: 0x0004, value: 0 },
    },
    {
      ...{ number: '', from: 'operation', to: 'switching off', title: 'OFF1' },
      command: { mask: onCommand, value: 0 },
    },
    {
      ...{ number: '', from: 'operation', to: 'switched on', title: 'Disable operation' },
      command: { mask: enableOperation, value: 0 },
    },
    {
      ...{ number: '', from: 'switching off', to: 'operation', title: 'ON before standstill' },
      command: { mask: onCommand | noStops | enableOperation, value: onCommand | noStops | enableOperation },
    },
    { ...{ number: '', from: 'switching off', to: 'ready', title: 'standstill' }, command: null },
    {
      ...{ number: '', from: 'fault', to: 'inhibited', title: 'Acknowledge fault' },
      ...{ command: { mask: 0x0080, value: 0x0080 }, rises: 7 },
    },
  ],
  line: ['inhibited', 'ready', 'switched on', 'operation'],
};

/** 100 % of a speed that is normalised to 16 bits: N2, 4000h; from memory. */
export const fullSpeed = 16_384;
