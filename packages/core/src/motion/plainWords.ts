import type { WordProfile } from './wordProfile.js';

/**
 * Drives that are started by a bit: the basic and extended speed control assemblies of ODVA (CIP Vol. 1, AC/DC drive
 * profile, instances 20, 21, 70, 71, and the states of the control supervisor, attribute 6; from memory), and plain
 * start and stop bits, two-wire (a level) or three-wire (pulses, stop first), as is common practice.
 */
const run = { mask: 0b011, value: 0b001 };

export const speedControl: WordProfile = {
  id: 'speed control',
  title: 'ODVA speed control',
  source: 'CIP Vol. 1, AC/DC drive profile and control supervisor; from memory',
  control: [
    { bit: 0, title: 'run forward', role: 'forward' },
    { bit: 1, title: 'run reverse', role: 'reverse' },
    { bit: 2, title: 'fault reset', role: 'fault reset' },
    { bit: 5, title: 'network control', role: 'network control' },
    { bit: 6, title: 'network reference', role: 'network reference' },
  ],
  status: [
    { bit: 0, title: 'faulted', role: 'faulted' },
    { bit: 1, title: 'warning', role: 'warning' },
    { bit: 2, title: 'running 1 (forward)', role: 'runs forward' },
    { bit: 3, title: 'running 2 (reverse)', role: 'runs reverse' },
    { bit: 4, title: 'ready', role: 'ready' },
    { bit: 5, title: 'control from net', role: 'network has control' },
    { bit: 6, title: 'reference from net', role: 'network has reference' },
    { bit: 7, title: 'at reference', role: 'at speed' },
  ],
  states: [
    { id: 'faulted', title: 'Faulted', status: { mask: 0x01, value: 0x01 } },
    { id: 'enabled', title: 'Enabled', status: { mask: 0x05, value: 0x04 } },
    { id: 'reverse', title: 'Enabled, reverse', status: { mask: 0x09, value: 0x08 } },
    { id: 'ready', title: 'Ready', status: { mask: 0x1d, value: 0x10 } },
    { id: 'not ready', title: 'Not ready', status: { mask: 0x1d, value: 0x00 } },
  ],
  transitions: [
    { number: '', from: 'not ready', to: 'ready', title: 'by itself', command: null },
    { number: '', from: 'ready', to: 'enabled', title: 'Run forward', command: run },
    { number: '', from: 'ready', to: 'reverse', title: 'Run reverse', command: { mask: 3, value: 2 } },
    { number: '', from: 'enabled', to: 'ready', title: 'Stop', command: { mask: 3, value: 0 } },
    { number: '', from: 'reverse', to: 'ready', title: 'Stop', command: { mask: 3, value: 0 } },
    {
      ...{ number: '', from: 'faulted', to: 'ready', title: 'Fault reset' },
      ...{ command: { mask: 4, value: 4 }, rises: 2 },
    },
  ],
  line: ['not ready', 'ready', 'enabled'],
};

const plainControl = [
  { bit: 0, title: 'start', role: 'start' },
  { bit: 1, title: 'stop', role: 'stop' },
  { bit: 2, title: 'fault reset', role: 'fault reset' },
  { bit: 3, title: 'enable', role: 'enable' },
] as const;
const plainStatus = [
  { bit: 0, title: 'running', role: 'running' },
  { bit: 1, title: 'faulted', role: 'faulted' },
] as const;
const plainStates = [
  { id: 'faulted', title: 'Faulted', status: { mask: 0b10, value: 0b10 } },
  { id: 'running', title: 'Running', status: { mask: 0b11, value: 0b01 } },
  { id: 'stopped', title: 'Stopped', status: { mask: 0b11, value: 0b00 } },
] as const;
const resetFault = {
  ...{ number: '', from: 'faulted', to: 'stopped', title: 'Fault reset' },
  ...{ command: { mask: 0b100, value: 0b100 }, rises: 2 },
} as const;

/** Start as long as it is set; stop goes first. */
export const twoWire: WordProfile = {
  ...{ id: 'two-wire', title: 'start by level', source: 'common practice, no source' },
  ...{ control: plainControl, status: plainStatus, states: plainStates },
  transitions: [
    {
      ...{ number: '', from: 'stopped', to: 'running', title: 'Start' },
      command: { mask: 0b11, value: 0b01 },
    },
    {
      ...{ number: '', from: 'running', to: 'stopped', title: 'Stop' },
      command: { mask: 0b10, value: 0b10 },
    },
    {
      ...{ number: '', from: 'running', to: 'stopped', title: 'No start' },
      command: { mask: 0b01, value: 0b00 },
    },
    resetFault,
  ],
  line: ['stopped', 'running'],
};

/** A start that is latched at its edge until stop; stop goes first. */
export const threeWire: WordProfile = {
  ...{ id: 'three-wire', title: 'latched start', source: 'common practice, no source' },
  ...{ control: plainControl, status: plainStatus, states: plainStates },
  transitions: [
    {
      ...{ number: '', from: 'stopped', to: 'running', title: 'Start', rises: 0 },
      command: { mask: 0b11, value: 0b01 },
    },
    {
      ...{ number: '', from: 'running', to: 'stopped', title: 'Stop' },
      command: { mask: 0b10, value: 0b10 },
    },
    resetFault,
  ],
  line: ['stopped', 'running'],
};
