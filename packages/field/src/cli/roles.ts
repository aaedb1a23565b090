import { allImages, proposeRoles, rolesOfKind, roleText } from '@fadenkreuz/core';
import { cellOf } from './cellArgument.js';
import { exitCodes, print } from './output.js';

/** Prints the roles of a cell, given and proposed: a line per field or bit. */
export async function runRoles(argument: string, { json = false }: { json?: boolean }): Promise<number> {
  const cell = await cellOf(argument);
  for (const { device, image } of allImages(cell)) {
    const line = (name: string, bit: number | null, role: string, sure: number, reason: string) =>
      print(
        json,
        { device: device.name, image: image.direction, field: name, bit, role, sure, reason },
        `${device.name} ${image.direction} ${name}${bit === null ? '' : `.${bit}`}: ${role} (${sure}, ${reason})`,
      );
    for (const field of image.fields) {
      if (field.role) line(field.name, null, roleText(field.role), 1, 'given');
      for (const { bit, role } of field.bitRoles) line(field.name, bit, roleText(role), 1, 'given');
    }
    for (const { field, bit, role, sure, reason } of proposeRoles(image, rolesOfKind(device.kind).usual))
      line(image.fields.find((f) => f.id === field)!.name, bit, roleText(role), sure, reason);
  }
  return exitCodes.done;
}
