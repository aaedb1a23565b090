import {
  beamsOf,
  profileOf,
  quantitiesOfCell,
  settingsRead,
  stationsOf,
  wordProfiles,
  type Beam,
  type Device,
  type Stations,
} from '@fadenkreuz/core';
import { RoleImage } from '@fadenkreuz/core/devices';
import type { Desk } from '../desk/desk.svelte.js';

/** What stops a device now, as the bench shows it; empty while it does not run. */
export function beamsNow(desk: Desk, device: Device): Beam[] {
  const link = device.links[0];
  const status = desk.linkStatus(device.id);
  const [command, feedback] = [
    link && desk.bytes.get(link.command.id),
    link && desk.bytes.get(link.feedback.id),
  ];
  // Of a link that is lost nothing is shown: then its first condition is what stops it.
  if (!link || !status || status.state === 'no-stand-in') return [];
  if (status.state === 'open' && (!command || !feedback)) return [];
  return beamsOf(device, link, {
    ...{ command: command ?? nothing, feedback: feedback ?? nothing },
    ...{ open: status.state === 'open', runs: desk.bench?.bench?.run ?? false },
    setting: settingsRead(device, desk.parameters.readOf(device.id)),
    quantity: quantitiesOfCell(desk.cell, (image) => desk.bytes.get(image.id)),
  });
}

const nothing = new Uint8Array(0);

/** Where a device stands on the line of its states; undefined where its roles speak of none. */
export function stationsNow(desk: Desk, device: Device, chosen: string): Stations | undefined {
  const link = device.links[0];
  const [command, feedback] = [
    link && desk.bytes.get(link.command.id),
    link && desk.bytes.get(link.feedback.id),
  ];
  if (!link || !command || !feedback) return undefined;
  const words = { command: new RoleImage(link.command), feedback: new RoleImage(link.feedback) };
  words.command.take(command);
  words.feedback.take(feedback);
  const profile = wordProfiles.find((p) => p.id === chosen) ?? profileOf(words, link.protocol);
  return profile && stationsOf(profile, words);
}

/** Devices whose images a beam needs beside its own: those that its own conditions name. */
export const linksOfBeam = (desk: Desk, device: Device): string[] =>
  desk.cell.devices
    .filter((d) => d === device || device.beam.own.some((c) => c.expression.includes(`${d.name}.`)))
    .flatMap((d) => d.links.map((l) => l.id));
