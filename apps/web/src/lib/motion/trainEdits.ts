import type { Desk } from '$lib/desk/desk.svelte.js';
import { emptyTrain, type Device, type DriveTrain } from '@fadenkreuz/core';

/** Changes some entries of a device's train; a train begins with its first entry. */
export const editTrain = (desk: Desk, device: Device, set: Partial<DriveTrain>): boolean =>
  desk.edit({
    edit: 'device.set',
    device: device.id,
    set: { train: { ...(device.train ?? emptyTrain), ...set } },
  });

/** A number as people type it, with comma or point; undefined where it is none. Empty: null. */
export function numberTyped(text: string): number | null | undefined {
  const plain = text.trim().replace(',', '.');
  if (plain === '') return null;
  const number = Number(plain);
  return Number.isFinite(number) ? number : undefined;
}

/** A figure with four digits and its unit. */
export const figure = (value: number, unit = ''): string =>
  `${Number(value.toPrecision(4))}${unit ? ` ${unit}` : ''}`;
