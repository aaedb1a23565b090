import ipaddr from 'ipaddr.js';
import { z } from 'zod';
import { fieldTypeNames, fieldTypes } from '../layout/fieldTypes.js';

/**
 * The model of a cell. These schemas are the one source of its types; a `Cell` is an immutable value. Sizes are bytes,
 * bit places count from 0 at bit 0 of byte 0, times are microseconds.
 */

/** The largest image that one cyclic frame on Ethernet carries. */
export const maxImageBytes = 1500;
const maxDevices = 500;
const maxFieldsPerImage = 4000;

const id = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/, 'an id has 1 to 40 letters, digits, - or _');

// Control characters, lone surrogates and the invisible direction marks would look like another name on screen.
const unprintable = /[\p{Cc}\p{Cs}\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff]/u;

const printable = (most: number) =>
  z
    .string()
    .max(most, `has more than ${most} characters`)
    .refine((text) => !unprintable.test(text), 'holds a control or an invisible character')
    .refine((text) => text === text.trim(), 'begins or ends with a space')
    .refine((text) => text === text.normalize('NFC'), 'is not in Unicode normal form C');

const name = printable(64).min(1, 'is empty');
const text = printable(200).default('');

const dottedQuad = z
  .string()
  .refine((a) => ipaddr.IPv4.isValidFourPartDecimal(a), 'is no IPv4 address such as 192.168.40.21');
const subnet = z
  .string()
  .refine(
    (c) => ipaddr.IPv4.isValidCIDR(c) && ipaddr.IPv4.isValidFourPartDecimal(c.split('/')[0]!),
    'is no IPv4 subnet such as 192.168.40.0/24',
  );

const int = (least: number, most: number) => z.number().int().min(least).max(most);

export const Label = z.strictObject({
  /** Raw value, as written in the image. */
  value: int(0, 0xffff_ffff),
  text: name,
});

/** Value = raw × numerator / denominator + offset. */
export const Scale = z.strictObject({
  numerator: z
    .number()
    .int()
    .min(-1_000_000_000)
    .max(1_000_000_000)
    .refine((n) => n !== 0, 'is 0, so every raw number would mean the same'),
  denominator: int(1, 1_000_000_000),
  offset: z.number(),
});

export const Field = z
  .strictObject({
    id,
    name,
    type: z.enum(fieldTypeNames),
    /** First bit, counted from bit 0 of byte 0. */
    at: int(0, maxImageBytes * 8 - 1),
    /** Length in bits; fixed by every type but BITS. */
    bits: int(1, 64),
    scale: Scale.nullable().default(null),
    unit: printable(16).default(''),
    labels: z.array(Label).max(256).default([]),
    note: text,
  })
  .refine((f) => fieldTypes[f.type].bits === undefined || fieldTypes[f.type].bits === f.bits, {
    path: ['bits'],
    message: 'is not the length of this type',
  });

const imageShape = {
  id,
  /** Assembly instance, CIP class 16#04. */
  instance: int(1, 0xffff),
  /** Bytes of application data, without sequence count and run/idle header. */
  size: int(0, maxImageBytes),
  /** First byte in the controller's output area (command) or input area (feedback). */
  start: int(0, 1_048_575),
  fields: z.array(Field).max(maxFieldsPerImage),
};

export const CommandImage = z.strictObject({ ...imageShape, direction: z.literal('command') });
export const FeedbackImage = z.strictObject({ ...imageShape, direction: z.literal('feedback') });

const updateTime = int(500, 10_000_000);

export const Link = z.strictObject({
  id,
  protocol: z.literal('ethernet-ip'),
  connection: z.literal('exclusive-owner'),
  /** Requested packet interval controller → device, µs. */
  commandRpi: updateTime,
  /** Requested packet interval device → controller, µs. */
  feedbackRpi: updateTime,
  /** A side gives the connection up after this many intervals without a packet (CIP Vol. 1, 3-5.5.1.4). */
  timeoutMultiplier: z.union([4, 8, 16, 32, 64, 128, 256, 512].map((n) => z.literal(n))),
  /** What the device does with its outputs when the connection is lost. */
  onLoss: z.enum(['drop', 'hold']),
  configuration: z.strictObject({
    instance: int(1, 0xffff),
    /** Sent with the opening request; hex digits, two a byte, 0 to 200 bytes. */
    data: z.string().regex(/^([0-9A-F]{2}){0,200}$/, 'is no run of upper-case hex pairs'),
  }),
  command: CommandImage,
  feedback: FeedbackImage,
});

export const deviceKinds = [
  'variable-speed drive',
  'servo axis',
  'robot',
  'vision sensor',
  'safety controller',
  'valve terminal',
  'weigher',
  'marker',
  'process I/O',
  'soft starter',
  'IO-Link master',
  'other',
] as const;

/** What the Identity object, CIP class 1, is planned to answer. */
export const Identity = z.strictObject({
  vendor: int(0, 0xffff),
  deviceType: int(0, 0xffff),
  productCode: int(0, 0xffff),
  majorRevision: int(1, 127),
  minorRevision: int(1, 255),
  productName: printable(32).refine((t) => /^[\x20-\x7e]*$/.test(t), 'has a character outside ASCII'),
});

export const Device = z.strictObject({
  id,
  name,
  /** IEC 81346 reference designation. */
  designation: printable(40).default(''),
  kind: z.enum(deviceKinds),
  maker: text,
  /** The machine part that it moves or serves. */
  serves: text,
  address: dottedQuad,
  identity: Identity,
  /** The behaviour that stands in for it on the bench; null while there is none. */
  standIn: z.enum(['climateIo']).nullable().default(null),
  links: z.array(Link).max(8),
});

export const Controller = z.strictObject({
  name,
  designation: printable(40).default(''),
  address: dottedQuad,
  /** Width of the elements in which the controller's program sees an image. */
  elementBits: z.union([z.literal(8), z.literal(16), z.literal(32)]),
});

export const Network = z.strictObject({ subnet, gateway: dottedQuad.nullable().default(null) });

export const Cell = z
  .strictObject({
    id,
    name,
    designation: printable(40).default(''),
    controller: Controller,
    network: Network,
    devices: z.array(Device).max(maxDevices),
  })
  .superRefine((cell, context) => {
    const seen = new Set<string>();
    const claim = (kind: string, value: string, path: (string | number)[]) => {
      const key = `${kind} ${value}`;
      if (seen.has(key))
        context.addIssue({ code: 'custom', path, message: `is the id ${value} a second time` });
      seen.add(key);
    };
    cell.devices.forEach((device, d) => {
      claim('device', device.id, ['devices', d, 'id']);
      device.links.forEach((link, l) => {
        claim('link', link.id, ['devices', d, 'links', l, 'id']);
        for (const side of ['command', 'feedback'] as const) {
          const path = ['devices', d, 'links', l, side];
          claim('image', link[side].id, [...path, 'id']);
          link[side].fields.forEach((field, f) => claim('field', field.id, [...path, 'fields', f, 'id']));
        }
      });
    });
  });

export type Label = z.infer<typeof Label>;
export type Scale = z.infer<typeof Scale>;
export type Field = z.infer<typeof Field>;
export type CommandImage = z.infer<typeof CommandImage>;
export type FeedbackImage = z.infer<typeof FeedbackImage>;
export type Image = CommandImage | FeedbackImage;
export type Direction = Image['direction'];
export type Link = z.infer<typeof Link>;
export type Identity = z.infer<typeof Identity>;
export type Device = z.infer<typeof Device>;
export type Controller = z.infer<typeof Controller>;
export type Network = z.infer<typeof Network>;
export type Cell = z.infer<typeof Cell>;
