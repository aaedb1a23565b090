import { Problem } from '../messages/problem.js';

/** 500 devices with 100 fields each, laid out, described and labelled, stay below this. */
export const maxCellFileBytes = 32 * 1024 * 1024;

/** What the devices of a cell may make of its file, so that what can be made can be written and read again. */
export const maxDevicesBytes = 24 * 1024 * 1024;

// Devices never change; after an edit only the edited one is measured.
const known = new WeakMap<object, number>();

/** Characters that a device takes in a cell file, about: entries that say nothing are left out there. */
function sizeOf(device: object): number {
  let size = known.get(device);
  if (size === undefined) {
    size = JSON.stringify(device, (_key, value: unknown) => (saysNothing(value) ? undefined : value)).length;
    known.set(device, size);
  }
  return size;
}

const saysNothing = (value: unknown) =>
  value === null || value === false || value === '' || (Array.isArray(value) && value.length === 0);

/** Throws `cell.tooLarge` for devices that would make a file that cannot be read again. */
export function refuseTooLarge(devices: readonly object[]): void {
  const bytes = devices.reduce((sum, device) => sum + sizeOf(device), 0);
  if (bytes > maxDevicesBytes) throw new Problem('cell.tooLarge', { bytes, limit: maxDevicesBytes });
}
