import { dimensionOf } from '../layout/dimension.js';
import type { Field } from '../layout/field.js';
import type { Direction } from '../layout/image.js';
import {
  factsOfRole,
  roleFits,
  roleNames,
  roles,
  type FieldReads,
  type Role,
  type RoleOf,
} from '../layout/role.js';
import { fieldReads } from './fieldReads.js';
import { patterns } from './patterns.js';
import { rolesOfProfiles, type ProfiledImage } from './profiles.js';
import { wordsOf } from './words.js';

/** A role that a field or a bit probably has. */
export interface RoleProposal {
  field: string;
  /** The bit of the field; null: the field as a whole. */
  bit: number | null;
  role: RoleOf;
  /** From 0 to 1. */
  sure: number;
  reason: string;
  /** A person has to say so: it is about a safety function. */
  ask: boolean;
}

/** Below it nothing is proposed. */
const sureEnough = 0.5;
/** Of two roles that are so close none is proposed. */
const tooClose = 0.04;
/** What is not the name must say a role whole, and is less sure than a name. */
const besideName = { least: 0.88, less: 0.2 } as const;

/** Words that say little of what a thing is for. */
const faint = new Set(
  'status command bit value network word data the of and is a signal motor drive system device axis robot active operation'.split(
    ' ',
  ),
);

interface Pattern {
  role: Role;
  words: readonly string[];
}
const compiled: readonly Pattern[] = roleNames.flatMap((role) =>
  patterns[role].map((text) => ({ role, words: [...new Set(text.split(' '))] })),
);
/** By each word that a pattern asks for: most names touch few of them. */
const byWord = new Map<string, Pattern[]>();
for (const pattern of compiled) {
  const [first] = pattern.words;
  byWord.set(first!, [...(byWord.get(first!) ?? []), pattern]);
}

interface Asked extends FieldReads {
  name: string;
  direction: Direction;
  unit: string;
}

interface Found {
  role: Role;
  sure: number;
  number: number | null;
  by: string;
}

/** The roles that a name may stand for, the surest first. */
export function rolesByName({ name, direction, unit, ...as }: Asked): Found[] {
  const words = wordsOf(name);
  const numbers = words.filter((w) => /^\d+$/.test(w)).map(Number);
  const said = new Set(words.filter((w) => !/^\d+$/.test(w)));
  // What is denied is the opposite of what it names.
  if (said.has('inverted')) return [];
  const weight = (word: string) => (faint.has(word) ? 0.3 : 1);
  const all = [...said].reduce((sum, word) => sum + weight(word), 0);
  const best = new Map<Role, Found>();
  for (const word of said)
    for (const { role, words: wanted } of byWord.get(word) ?? []) {
      if (!wanted.every((w) => said.has(w))) continue;
      const facts = factsOfRole(role);
      if (facts.direction !== 'either' && facts.direction !== direction) continue;
      if (!roleFits(facts, as)) continue;
      const measured = dimensionOf(unit);
      const agrees = facts.dimension !== undefined && measured === facts.dimension;
      if (facts.dimension && measured && !agrees) continue;
      const covered = wanted.reduce((sum, w) => sum + weight(w), 0) / all;
      // A single faint word names nothing.
      const weak = wanted.every((w) => faint.has(w)) && wanted.length === 1;
      const sure = Math.min(1, 0.3 + 0.6 * covered + (agrees ? 0.1 : 0) - (weak ? 0.15 : 0));
      const number = facts.numbered ? (numbers.at(-1) ?? null) : null;
      if (sure > (best.get(role)?.sure ?? 0)) best.set(role, { role, sure, number, by: wanted.join(' ') });
    }
  return [...best.values()].sort((a, b) => b.sure - a.sure);
}

/**
 * Roles for what has none in an image, each with its reason; a role that only one can have is proposed for the surest
 * alone. `usual` are the roles of the device's kind: they go before others.
 */
export function proposeRoles(image: ProfiledImage, usual: readonly Role[] = []): RoleProposal[] {
  const { fields, direction } = image;
  const taken = new Set(
    fields.flatMap((f) => [f.role, ...f.bitRoles.map((b) => b.role)]).flatMap((r) => (r ? [key(r)] : [])),
  );
  const byName = fields.flatMap((field) => [
    ...(field.role ? [] : ofField(field, direction, usual)),
    ...field.bitLabels
      .filter(({ bit }) => !field.bitRoles.some((b) => b.bit === bit))
      .flatMap(({ bit, text }) => one(field, bit, text, direction, usual)),
  ]);
  fromOne(byName);
  // A standard knows its places better than their names do.
  const byProfile = profiled(image, byName, usual);
  const known = new Set(byProfile.map((p) => `${p.field} ${p.bit}`));
  const proposals = [...byProfile, ...byName.filter((p) => !known.has(`${p.field} ${p.bit}`))];
  const surest = [...proposals].sort((a, b) => b.sure - a.sure);
  const kept = surest.filter(({ role }) => {
    if (taken.has(key(role))) return false;
    taken.add(key(role));
    return true;
  });
  const order = new Map(fields.map(({ id }, i) => [id, i]));
  return proposals
    .filter((p) => kept.includes(p))
    .sort((a, b) => order.get(a.field)! - order.get(b.field)! || (a.bit ?? -1) - (b.bit ?? -1));
}

/** By its name; where that says nothing, by the text of the value with which it acts, or by what the manual notes. */
function ofField(field: Field, direction: Direction, usual: readonly Role[]): RoleProposal[] {
  const byName = one(field, null, field.sourceName || field.name, direction, usual);
  if (byName.length > 0) return byName;
  const acts =
    field.bits === 1 ? field.labels.find(({ value }) => value === (field.normallyClosed ? 0 : 1)) : undefined;
  for (const [what, text] of [
    ['its value', acts?.text ?? ''],
    ['its note', field.note],
  ] as const) {
    const [found] = one(field, null, text, direction, usual);
    if (found && found.sure >= besideName.least)
      return [
        {
          ...found,
          sure: Math.round((found.sure - besideName.less) * 100) / 100,
          reason: `${what} ${found.reason}`,
        },
      ];
  }
  return [];
}

/** Proposals for places that have no role yet. */
function profiled(
  image: ProfiledImage,
  byName: readonly RoleProposal[],
  usual: readonly Role[],
): RoleProposal[] {
  const positions = usual.includes('setpoint strobe');
  const roleOf = (field: Field) =>
    field.role?.is ?? byName.find((p) => p.field === field.id && p.bit === null)?.role.is;
  return rolesOfProfiles(image, positions, roleOf).flatMap(({ field: id, bit, role, reason }) => {
    const field = image.fields.find((f) => f.id === id)!;
    const has = bit === null ? field.role !== null : field.bitRoles.some((b) => b.bit === bit);
    const { safety = false } = factsOfRole(role);
    return has ? [] : [{ field: id, bit, role: { is: role, number: null }, sure: 0.98, reason, ask: safety }];
  });
}

const key = ({ is, number }: RoleOf) => `${is} ${number ?? ''}`;

function one(
  field: Field,
  bit: number | null,
  name: string,
  direction: Direction,
  usual: readonly Role[],
): RoleProposal[] {
  const as = bit === null ? fieldReads(field) : ({ reads: 'bit', bitString: false } as const);
  if (!as) return [];
  const found = rolesByName({ name, direction, ...as, unit: bit === null ? field.unit : '' })
    .map((f) => ({ ...f, sure: f.sure + forKind(f.role, usual) }))
    .sort((a, b) => b.sure - a.sure);
  const [first, second] = found;
  if (!first || first.sure < sureEnough || (second && first.sure - second.sure < tooClose)) return [];
  const { safety = false } = factsOfRole(first.role);
  const unit = bit === null && field.unit ? `, unit ${field.unit}` : '';
  return [
    {
      field: field.id,
      bit,
      role: { is: first.role, number: first.number },
      sure: Math.round(Math.min(1, first.sure) * 100) / 100,
      reason: `“${name}” says “${first.by}”${unit}`,
      ask: safety,
    },
  ];
}

/** What devices of the kind usually have is likelier than what they do not; of an unknown kind nothing is. */
const forKind = (role: Role, usual: readonly Role[]): number =>
  usual.length === 0 ? 0 : usual.includes(role) ? 0.08 : -0.12;

/** Points that are counted from 0 have numbers from 1, as all others. */
function fromOne(proposals: RoleProposal[]): void {
  for (const name of roleNames) {
    if (!('numbered' in roles[name])) continue;
    const own = proposals.filter((p) => p.role.is === name && p.role.number !== null);
    if (own.some((p) => p.role.number === 0))
      for (const p of own) p.role = { ...p.role, number: p.role.number! + 1 };
  }
}
