import { z } from 'zod';
import { fieldTypeNames, fieldTypes } from './fieldTypes.js';
import { RoleOf, type Role } from './role.js';
import { id, int, maxImageBits, name, printable, Ratio, text } from '../entries/entries.js';

/**
 * Which byte of a value comes first. Of 16#0A0B0C0D: little 0D 0C 0B 0A; big 0A 0B 0C 0D; bigSwapped (words swapped,
 * the bytes of each word in order) 0C 0D 0A 0B; littleSwapped (words in order, the bytes of each swapped) 0B 0A 0D 0C.
 */
export const byteOrders = ['little', 'big', 'bigSwapped', 'littleSwapped'] as const;
export const ByteOrder = z.enum(byteOrders);

/** How a raw number is shown: decimal as its type says, or another reading of the same bits. */
export const radixes = ['decimal', 'signed', 'hex', 'binary', 'float', 'text'] as const;
export const Radix = z.enum(radixes);

const rawNumber = int(-0x8000_0000, 0xffff_ffff);

/** The meaning of one raw number. */
export const Label = z.strictObject({ value: rawNumber, text: name });

/** The meaning of one bit of a field when it is set, counted from 0 at its lowest. */
export const BitLabel = z.strictObject({ bit: int(0, 63), text: name });

/** What one bit of a field is for, counted from 0 at its lowest. */
export const BitRole = z.strictObject({ bit: int(0, 63), role: RoleOf });

/** A raw number that is no measurement. */
export const Special = z.strictObject({
  value: rawNumber,
  means: z.enum(['no reading', 'overrange', 'underrange', 'fault']),
});

/** Value = raw × factor + offset, both exact. */
export const Scale = z.strictObject({
  factor: Ratio.refine((f) => !/^-?0+(\.0+)?(\/|$)/.test(f), 'is 0, so every raw number would mean the same'),
  offset: Ratio,
});

/** Where the sign of a number comes from when its type does not say it. */
export const Sign = z.discriminatedUnion('way', [
  /** Raw number less half of the range: offset binary. */
  z.strictObject({ way: z.literal('offset') }),
  /** Two's complement of as many bits as the field has: for plain bits, whose type does not say it. */
  z.strictObject({ way: z.literal('complement') }),
  /**
   * A magnitude; a set bit of a field (of this one or of another) says that it is negative, a clear one if inverted.
   */
  z.strictObject({ way: z.literal('bit'), field: id, bit: int(0, 63), inverted: z.boolean() }),
]);

/** Where the decimal point stands: value = number / 10^places. */
export const Decimals = z.discriminatedUnion('way', [
  z.strictObject({ way: z.literal('fixed'), places: int(0, 15) }),
  z.strictObject({ way: z.literal('field'), field: id }),
  /** A parameter of the device, with the places that it was last known to say. */
  z.strictObject({ way: z.literal('parameter'), parameter: name, places: int(0, 15) }),
]);

/** What engineering values are allowed, both ends included. */
export const Limits = z.strictObject({ minimum: Ratio.nullable(), maximum: Ratio.nullable() });

/** How characters lie in a text field. */
export const TextForm = z.strictObject({
  /** Bits of the count of bytes that stands before the characters; 0: none, the text ends at the padding. */
  prefix: z.union([z.literal(0), z.literal(8), z.literal(16)]),
  encoding: z.enum(['ascii', 'utf-8']),
  /** The byte that fills what the text leaves free. */
  pad: int(0, 255),
});

/** The same field `count` times, each `stride` bits behind the one before. */
export const Repeat = z.strictObject({ count: int(1, 1500), stride: int(1, maxImageBits) });

export const Field = z
  .strictObject({
    id,
    name,
    type: z.enum(fieldTypeNames),
    /**
     * First bit, counted from bit 0 of byte 0 of the device's image. Of a field over several bytes: 8 × its first byte
     * + the place of its lowest bit within these bytes when they are put in order.
     */
    at: int(0, maxImageBits - 1),
    /** Length in bits of one value; fixed by most types. */
    bits: int(1, maxImageBits),
    /** Null: as the image says. */
    order: ByteOrder.nullable().default(null),
    /** The group that it belongs to and is repeated with. */
    group: id.nullable().default(null),
    array: Repeat.nullable().default(null),
    text: TextForm.nullable().default(null),
    sign: Sign.nullable().default(null),
    scale: Scale.nullable().default(null),
    decimals: Decimals.nullable().default(null),
    unit: printable(16).default(''),
    limits: Limits.nullable().default(null),
    specials: z.array(Special).max(32).default([]),
    labels: z.array(Label).max(256).default([]),
    bitLabels: z.array(BitLabel).max(64).default([]),
    /** 1 is the state of rest (clear, closed, healthy), 0 says that it acts. */
    normallyClosed: z.boolean().default(false),
    /** It serves a safety function. */
    safety: z.boolean().default(false),
    radix: Radix.default('decimal'),
    note: text,
    /** Its name in the description file that it came from, where that is another. */
    sourceName: printable(120).default(''),
    /** What it is for, and what its single bits are for; a repeated field has its role once, for all its elements. */
    role: RoleOf.nullable().default(null),
    bitRoles: z.array(BitRole).max(64).default([]),
  })
  .superRefine((field, context) => {
    const issue = (path: string, message: string) =>
      context.addIssue({ code: 'custom', path: [path], message });
    const { bits, reads } = fieldTypes[field.type];
    if (bits !== undefined && bits !== field.bits) issue('bits', 'is not the length of this type');
    if (bits === undefined && reads !== 'text' && reads !== 'bytes' && field.bits > 64)
      issue('bits', 'is more than the 64 bits that a number can have');
    if (reads === 'bcd' && field.bits % 4 !== 0)
      issue('bits', 'is no whole number of BCD digits (4 bits each)');
    if ((reads === 'text' || reads === 'bytes') && (field.bits % 8 !== 0 || field.at % 8 !== 0))
      issue('at', 'text and raw bytes lie on whole bytes');
    if (reads === 'text' && field.bits <= (field.text?.prefix ?? 0))
      issue('bits', 'leaves no room for characters behind the count');
    if (field.sign?.way === 'complement' && (field.type !== 'BITS' || field.bits < 2))
      issue(
        'sign',
        'is two’s complement of plain bits; other types say by themselves whether they have a sign',
      );
    if (field.array && field.array.stride < field.bits)
      issue('array', 'has a stride that is shorter than one element');
  });

/** The roles that fields and their bits have. */
export const rolesOfFields = (fields: readonly Pick<Field, 'role' | 'bitRoles'>[]): Role[] =>
  fields.flatMap(({ role, bitRoles }) => [...(role ? [role.is] : []), ...bitRoles.map((b) => b.role.is)]);

export type ByteOrder = z.infer<typeof ByteOrder>;
export type Radix = z.infer<typeof Radix>;
export type Label = z.infer<typeof Label>;
export type BitLabel = z.infer<typeof BitLabel>;
export type BitRole = z.infer<typeof BitRole>;
export type Special = z.infer<typeof Special>;
export type Scale = z.infer<typeof Scale>;
export type Sign = z.infer<typeof Sign>;
export type Decimals = z.infer<typeof Decimals>;
export type Limits = z.infer<typeof Limits>;
export type TextForm = z.infer<typeof TextForm>;
export type Repeat = z.infer<typeof Repeat>;
export type Field = z.infer<typeof Field>;
