import type { Device, Link, LinkBase } from '@fadenkreuz/core';
import type { CutOff } from '../wire/streamClient.js';

/** Where one side of a link stands: an IP address and a port, or a place on a wire that has no such addresses. */
export type End = { on: 'ip'; address: string; port?: number | undefined } | { on: 'wire'; station: string };

/** An end in words, and as reports show it. */
export const endText = (end: End): string => (end.on === 'ip' ? end.address : end.station);
export const portOf = (end: End): number | null => (end.on === 'ip' ? (end.port ?? null) : null);

/** A link and where it goes. */
export interface LinkEnds<L extends LinkBase = Link> {
  device: Device;
  link: L;
  /** The device; on the bench it lies in loopback. */
  end: End;
  /** The controller's own IP address on that way. */
  localAddress: string;
  /** Whether packets to it get lost at this moment: the cable is pulled, or it stands elsewhere. */
  cut?: CutOff | undefined;
  /** Whether it is a real device, which nothing is written to before a person has allowed it. */
  real?: boolean | undefined;
  /** Whether `link` is the planned one made to read alone. */
  reads?: boolean | undefined;
  /** Whether it may be opened at this moment; a link to a real device that writes asks each time. */
  mayOpen?: (() => boolean) | undefined;
}

/** The IP end of a link. Throws for one that goes elsewhere, which a driver of an IP protocol never gets. */
export function ipEnd(end: End): { address: string; port?: number | undefined } {
  if (end.on !== 'ip') throw new Error(`${end.station} is no IP address`);
  return end;
}
