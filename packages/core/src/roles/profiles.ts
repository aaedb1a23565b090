import type { Field } from '../layout/field.js';
import type { Direction, Image } from '../layout/image.js';
import type { Role } from '../layout/role.js';

/** Roles that a standard gives to places, whatever their fields are called. */
export interface ProfileRole {
  field: string;
  bit: number | null;
  role: Role;
  reason: string;
}

interface Assembly {
  direction: Direction;
  title: string;
  /** By bit from the start of the image. */
  bits: Readonly<Record<number, Role>>;
  /** By first bit of a number of 16 bits. */
  words: Readonly<Record<number, Role>>;
}

/** Assemblies of the AC/DC drive profile (CIP Vol. 1, 6-29.6, from memory): four bytes each. */
const assemblies: Readonly<Record<number, Assembly>> = {
  20: {
    ...{ direction: 'command', title: 'basic speed control' },
    ...{ bits: { 0: 'forward', 2: 'fault reset' }, words: { 16: 'speed reference' } },
  },
  21: {
    ...{ direction: 'command', title: 'extended speed control' },
    bits: { 0: 'forward', 1: 'reverse', 2: 'fault reset', 5: 'network control', 6: 'network reference' },
    words: { 16: 'speed reference' },
  },
  70: {
    ...{ direction: 'feedback', title: 'basic speed control' },
    ...{ bits: { 0: 'faulted', 2: 'runs forward' }, words: { 16: 'speed actual' } },
  },
  71: {
    ...{ direction: 'feedback', title: 'extended speed control' },
    bits: {
      ...{ 0: 'faulted', 1: 'warning', 2: 'runs forward', 3: 'runs reverse', 4: 'ready' },
      ...{ 5: 'network has control', 6: 'network has reference', 7: 'at speed' },
    },
    words: { 16: 'speed actual' },
  },
};
const assemblyBytes = 4;

/** Bits of the words of IEC 61800-7-201 (from memory), as far as they are roles; those that act when 0 are left out. */
const words: Readonly<Partial<Record<Role, Readonly<Record<number, Role>>>>> = {
  'control word': {
    ...{ 0: 'switch on', 1: 'enable voltage', 3: 'enable', 4: 'setpoint strobe' },
    ...{ 6: 'relative setpoint', 7: 'fault reset', 8: 'hold' },
  },
  'status word': {
    ...{ 0: 'ready to switch on', 1: 'switched on', 2: 'enabled', 3: 'faulted', 4: 'voltage enabled' },
    ...{ 6: 'switch on disabled', 7: 'warning', 10: 'target reached', 11: 'limit active' },
    ...{ 12: 'setpoint acknowledge', 13: 'following error' },
  },
};

/** What the standard's assemblies say of the fields of an image that is one of them. */
function byAssembly({ fields, direction, instance, size }: ProfiledImage): ProfileRole[] {
  const profile = instance === undefined ? undefined : assemblies[instance];
  if (profile?.direction !== direction || size !== assemblyBytes) return [];
  const reason = `assembly ${instance} is ${profile.title} (CIP Vol. 1, 6-29.6)`;
  return fields.flatMap((field): ProfileRole[] => {
    const { id, at, bits } = field;
    if (bits === 1) {
      const role = profile.bits[at];
      return role ? [{ field: id, bit: null, role, reason }] : [];
    }
    const whole = bits === 16 ? profile.words[at] : undefined;
    if (whole) return [{ field: id, bit: null, role: whole, reason }];
    if (at % 8 !== 0 || bits % 8 !== 0 || !isWord(field)) return [];
    return Object.entries(profile.bits).flatMap(([bit, role]) =>
      Number(bit) >= at && Number(bit) < at + bits
        ? [{ field: id, bit: Number(bit) - at, role, reason }]
        : [],
    );
  });
}

const isWord = ({ type }: Field): boolean => /^(BYTE|WORD|DWORD|USINT|UINT|UDINT|BITS)$/.test(type);

/** What the drive profile says of the bits of words that are control or status word. */
function byWord(fields: readonly Field[], roleOf: (field: Field) => Role | undefined): ProfileRole[] {
  return fields.flatMap((field) => {
    const word = roleOf(field);
    const bits = word && words[word];
    if (!bits || field.bits !== 16 || field.bitLabels.length > 0) return [];
    return Object.entries(bits).map(([bit, role]) => ({
      ...{ field: field.id, bit: Number(bit), role },
      reason: `bit ${bit} of the ${word} of CiA 402 (IEC 61800-7-201)`,
    }));
  });
}

export type ProfiledImage = Pick<Image, 'fields' | 'direction'> & Partial<Pick<Image, 'instance' | 'size'>>;

/**
 * Roles that standards give to places of an image. `positions`: of a kind that positions, whose words are those of CiA
 * 402; `roleOf`: what a whole field is for, given or proposed by its name.
 */
export const rolesOfProfiles = (
  image: ProfiledImage,
  positions: boolean,
  roleOf: (field: Field) => Role | undefined,
): ProfileRole[] => [...byAssembly(image), ...(positions ? byWord(image.fields, roleOf) : [])];
