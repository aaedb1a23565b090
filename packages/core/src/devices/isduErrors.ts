import type { Refusal } from './refusal.js';

/**
 * Errors of requests to IO-Link devices (IO-Link interface specification V1.1.3, annex C; from memory): why, in words,
 * and what to do.
 */
const errors: Readonly<Record<number, readonly [refusal: Refusal, means: string, cure: string]>> = {
  0x8000: ['device', 'The device refuses without a reason', 'Look at the state of the device in its manual.'],
  0x8011: ['absent', 'The device has no such index', 'Compare the index with the description of the device.'],
  0x8012: [
    'absent',
    'The device has no such subindex',
    'Compare the subindex with the description; subindex 0 asks for the whole.',
  ],
  0x8020: ['busy', 'The service is not available now', 'Ask again after a moment.'],
  0x8021: ['state', 'The device is being operated at its own keys', 'Leave the menu of the device.'],
  0x8022: [
    'state',
    'The device is controlled from elsewhere',
    'End the other tool that works on the device.',
  ],
  0x8023: ['read-only', 'The value cannot be written', 'Look whether it is locked or read only.'],
  0x8030: ['range', 'The value is outside its range', 'Keep to the limits of the parameter.'],
  0x8031: ['range', 'The value is above its limit', 'Keep to the limits of the parameter.'],
  0x8032: ['range', 'The value is below its limit', 'Keep to the limits of the parameter.'],
  0x8033: ['size', 'The value has too many bytes', 'Correct the length of the parameter.'],
  0x8034: ['size', 'The value has too few bytes', 'Correct the length of the parameter.'],
  0x8035: ['state', 'The function is not available', 'Look which mode the device is in.'],
  0x8036: ['busy', 'The function is not available for a moment', 'Ask again after a moment.'],
  0x8040: ['range', 'The set of parameters is not valid', 'Write all values that belong together.'],
  0x8041: ['range', 'The values contradict each other', 'Write all values that belong together.'],
  0x8082: ['busy', 'The application of the device is not ready', 'Ask again when the device has started.'],
  0x1100: [
    'state',
    'No device talks at the port',
    'See that the port has load power, stands in IO-Link mode, and has its device plugged in.',
  ],
};

/** What an error of a request to a port means. */
export function isduError(code: number): { refusal: Refusal; means: string; cure: string } {
  const [refusal, means, cure] = errors[code] ?? [
    'device',
    'The device refuses for a reason of its own',
    'Look the error up in the manual of the device.',
  ];
  return { refusal, means: `${means} (16#${code.toString(16).toUpperCase()}).`, cure };
}

/** What a simulated device answers for each reason; 16#1100, no device, is the master's (communication error). */
const codes: Readonly<Record<Refusal, number>> = {
  ...{ absent: 0x8011, 'read-only': 0x8023, range: 0x8030, state: 0x1100 },
  ...{ locked: 0x8023, size: 0x8033, busy: 0x8020, device: 0x8000 },
};
export const isduCode = (refusal: Refusal): number => codes[refusal];
