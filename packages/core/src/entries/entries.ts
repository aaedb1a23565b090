import ipaddr from 'ipaddr.js';
import { z } from 'zod';

/** The kinds of entry that all parts of a cell share. */

/** The largest image that one cyclic frame on Ethernet carries, bytes. */
export const maxImageBytes = 1500;
export const maxImageBits = maxImageBytes * 8;

export const id = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/, 'an id has 1 to 40 letters, digits, - or _');

// Control characters, lone surrogates and the invisible direction marks would look like another name on screen.
const unprintable = /[\p{Cc}\p{Cs}\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff]/u;

export const printable = (maximum: number) =>
  z
    .string()
    .max(maximum, `has more than ${maximum} characters`)
    .refine((text) => !unprintable.test(text), 'holds a control or an invisible character')
    .refine((text) => text === text.trim(), 'begins or ends with a space')
    .refine((text) => text === text.normalize('NFC'), 'is not in Unicode normal form C');

export const name = printable(64).min(1, 'is empty');
export const text = printable(200).default('');

export const int = (minimum: number, maximum: number) => z.number().int().min(minimum).max(maximum);

/**
 * An exact rational number as it is written in a manual: 1/100, -10, 0.002 or 5/9. Computed with as a fraction, never
 * as a rounded decimal. The largest number of binary32 has 39 digits, and limits of REAL go up to it.
 */
export const Ratio = z
  .string()
  .regex(/^-?\d{1,40}(\.\d{1,40})?(\/[1-9]\d{0,39})?$/, 'is no number such as 1/100, 0.002 or -10');

/** An IPv4 address as four decimal numbers. */
export const dottedQuad = z
  .string()
  .refine((a) => ipaddr.IPv4.isValidFourPartDecimal(a), 'is no IPv4 address such as 192.168.40.21');

/** An IPv4 subnet in CIDR notation (RFC 4632). */
export const subnet = z
  .string()
  .refine(
    (c) => ipaddr.IPv4.isValidCIDR(c) && ipaddr.IPv4.isValidFourPartDecimal(c.split('/')[0]!),
    'is no IPv4 subnet such as 192.168.40.0/24',
  );

/** A MAC address as it is printed on a nameplate; empty while it is not known. */
export const macAddress = z
  .string()
  .regex(/^(([0-9A-F]{2}-){5}[0-9A-F]{2})?$/, 'is no MAC address such as 02-FA-12-34-56-78');
