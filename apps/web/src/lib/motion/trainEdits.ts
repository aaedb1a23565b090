import type { Desk } from '$lib/desk/desk.svelte.js';
import {
  countsOf,
  emptyTrain,
  followingRoles,
  type Device,
  type DriveTrain,
  type Follows,
  type Role,
} from '@fadenkreuz/core';

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

/** An exact number as people type it, with comma or point. */
export const ratioTyped = (text: string): string => text.trim().replace(',', '.');

/** Lets the fields with a role follow the train, changes what they count, or lets them go (null). */
export function editFollows(
  desk: Desk,
  device: Device,
  train: DriveTrain,
  role: Role,
  part: Partial<Follows> | null,
): boolean {
  const others = train.follows.filter((f) => f.role !== role);
  // Without an encoder the drive knows revolutions only.
  const [usual = 'increments', besides] = countsOf(role);
  const counts = train.encoder ? (followingRoles[role] ?? usual) : (besides ?? usual);
  const before = train.follows.find((f) => f.role === role);
  const one: Follows = { ...{ role, counts, places: 0, full: 16_384 }, ...before, ...part };
  return editTrain(desk, device, { follows: part ? [...others, one] : others });
}
