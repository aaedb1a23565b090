import type { Cell } from '@fadenkreuz/core';
import type { LinkStatus } from '@fadenkreuz/field/agent-api';

/** Texts that are kept with their bytes. */
const mostKept = 200;
const known = new Map<string, Uint8Array>();

/**
 * The bytes that a text of the bench stands for; the same text gives the same array, so that what was decoded of it
 * stands.
 */
export function fromBase64(text: string): Uint8Array {
  const found = known.get(text);
  if (found) return found;
  if (known.size >= mostKept) known.clear();
  const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
  known.set(text, bytes);
  return bytes;
}

/** Raw bytes by image id, of the links whose images are told. */
export function liveBytes(cell: Cell, links: readonly LinkStatus[]): ReadonlyMap<string, Uint8Array> {
  const planned = new Map(cell.devices.flatMap((d) => d.links.map((l) => [l.id, l])));
  const bytes = new Map<string, Uint8Array>();
  for (const { link: id, state, command, feedback } of links) {
    const link = planned.get(id);
    if (!link || state === 'no-stand-in') continue;
    if (command !== '') bytes.set(link.command.id, fromBase64(command));
    // Bytes that no longer arrive are not shown as if they did.
    if (state === 'open' && feedback !== '') bytes.set(link.feedback.id, fromBase64(feedback));
  }
  return bytes;
}

/** Links whose images are among these. */
export function linksOfImages(cell: Cell, images: readonly string[]): string[] {
  if (images.length === 0) return [];
  const wanted = new Set(images);
  return cell.devices.flatMap((d) =>
    d.links.filter((l) => wanted.has(l.command.id) || wanted.has(l.feedback.id)).map((l) => l.id),
  );
}
