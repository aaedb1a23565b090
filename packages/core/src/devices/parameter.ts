import { z } from 'zod';
import { fieldTypeNames, fieldTypes } from '../layout/fieldTypes.js';
import { id, int, name, printable, Ratio, text } from '../entries/entries.js';
import { ByteOrder, Label, Limits, Scale } from '../layout/field.js';
import { RoleOf } from '../layout/role.js';
import { registerTables } from '../layout/registerTables.js';

/** Where the value of a parameter is asked for, by requests beside the cyclic exchange. */
export const ParameterPlace = z.discriminatedUnion('way', [
  /** An attribute of an object (CIP Vol. 1, 1-3). */
  z.strictObject({
    way: z.literal('attribute'),
    class: int(0, 0xffff),
    instance: int(0, 0xffff),
    attribute: int(0, 0xffff),
  }),
  /**
   * The first of its registers, or its bit; addresses on the wire, from 0 (Modbus Application Protocol V1.1b3, 4.4).
   */
  z.strictObject({ way: z.literal('register'), table: z.enum(registerTables), start: int(0, 0xffff) }),
  /** An index of an object dictionary (IEC 61800-7-201), or of a device that is asked itself. */
  z.strictObject({ way: z.literal('index'), index: int(0, 0xffff), subindex: int(0, 0xff) }),
  /** A part of a data record of a PROFINET submodule, from this byte on (IEC 61158-6-10). */
  z.strictObject({
    way: z.literal('record'),
    slot: int(0, 0x7fff),
    subslot: int(1, 0xffff),
    index: int(0, 0xffff),
    at: int(0, 4095),
  }),
  /** A parameter of a PROFIdrive axis by its number (PNU), in one of its drive objects (IEC 61800-7-203). */
  z.strictObject({
    way: z.literal('pnu'),
    number: int(0, 0xffff),
    subindex: int(0, 0xffff),
    object: int(0, 0xff),
  }),
  /** An index of the device at a port of an IO-Link master (IEC 61131-9), which the master asks for it (ports.ts). */
  z.strictObject({
    way: z.literal('port'),
    port: int(1, 255),
    index: int(0, 0xffff),
    subindex: int(0, 0xff),
  }),
]);

/** Of one device; drives have up to a thousand or two. */
export const maxParameters = 4000;

/** Bytes of the longest text that a parameter holds. */
const longestText = 250;

export const access = ['read-write', 'read', 'write'] as const;

/** Whether a value that was written outlasts a loss of power: at once, after it was saved to memory, or never. */
export const retentions = ['always', 'after saving', 'never'] as const;

/** One parameter of a device. Limits and initial value are engineering values; value = raw × factor + offset. */
export const Parameter = z
  .strictObject({
    id,
    /** What the manual calls it beside its name: 3-02, P0305, 17. */
    code: printable(20).default(''),
    name,
    /** The heading that it stands under in the manual. */
    group: printable(64).default(''),
    /** Null where the manual does not say it. */
    place: ParameterPlace.nullable().default(null),
    type: z.enum(fieldTypeNames),
    bits: int(1, longestText * 8),
    /** Null: as its protocol has it. */
    order: ByteOrder.nullable().default(null),
    access: z.enum(access).default('read-write'),
    scale: Scale.nullable().default(null),
    unit: printable(16).default(''),
    limits: Limits.nullable().default(null),
    /** What it is when the device leaves the factory. */
    initial: Ratio.nullable().default(null),
    /** What it is to be in this cell, as a person writes the value (parameterCodec.ts); null: nothing is planned. */
    planned: printable(longestText).nullable().default(null),
    /** The parameter, by its code, whose raw number says how many decimal places this one has. */
    decimals: printable(20).min(1).nullable().default(null),
    /** Null: not known. */
    retained: z.enum(retentions).nullable().default(null),
    /** It can be written only while the device stands still. */
    stopFirst: z.boolean().default(false),
    /** A value that was written acts after the next start of the device. */
    afterRestart: z.boolean().default(false),
    labels: z.array(Label).max(256).default([]),
    note: text,
    /** What it is for, where the device acts by it or shows in it what it has. */
    role: RoleOf.nullable().default(null),
    /** The parameter, by its code, that must hold this raw value before this one can be written. */
    key: z
      .strictObject({ code: printable(20).min(1), raw: Ratio })
      .nullable()
      .default(null),
  })
  .superRefine(({ type, bits }, context) => {
    const issue = (message: string) => context.addIssue({ code: 'custom', path: ['bits'], message });
    const { bits: fixed, reads } = fieldTypes[type];
    if (fixed !== undefined && fixed !== bits) issue('is not the length of this type');
    const whole = reads === 'text' || reads === 'bytes';
    if (fixed === undefined && !whole && bits > 64) issue('is more than the 64 bits that a number can have');
    if (whole && bits % 8 !== 0) issue('is no whole number of bytes');
  });

export type Parameter = z.infer<typeof Parameter>;
export type ParameterPlace = z.infer<typeof ParameterPlace>;
