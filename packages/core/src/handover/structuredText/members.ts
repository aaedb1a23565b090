import { uniqueIdentifiers } from '../../entries/identifiers.js';
import type { AddressScene } from '../../layout/address.js';
import { derivedOf } from '../../layout/derived.js';
import type { Field, Special } from '../../layout/field.js';
import { fieldAddress } from '../../layout/fieldAddress.js';
import { readsOf, roomOf } from '../../layout/fieldTypes.js';
import type { Derived, Image } from '../../layout/image.js';
import { signalsInside, type Signal } from '../../layout/signals.js';
import { pathOf, variablesOf, type Variable } from '../../layout/variables.js';
import { bitString, comment, unsigned, widthFor } from './text.js';

/** What a `…_special` beside a value says; 0: the value was measured. */
export const specialCodes: Readonly<Record<Special['means'], number>> = {
  'no reading': 1,
  overrange: 2,
  underrange: 3,
  fault: 4,
};
const specialText = Object.entries({ measured: 0, ...specialCodes })
  .map(([means, code]) => `${code} = ${means}`)
  .join(', ');

/** The types that a field has in code. */
export interface CodeTypes {
  /** Of the raw value, an elementary type; of text and raw bytes the whole type. */
  raw: string;
  /** Of the variable: REAL or LREAL when it is in engineering units. */
  own: string;
  /** Whether sign, decimal point or scale stand between the raw number and the variable. */
  engineered: boolean;
}

/** A signal as code has it. */
export interface Member extends CodeTypes {
  signal: Signal;
  /** How it is reached in the structure of its image: `channel[1].level`. */
  path: string;
  /** The same for what says which special number it holds. */
  special: string | undefined;
}

/** A derived value as code has it. */
export interface DerivedMember {
  derived: Derived;
  name: string;
  /** What says how far the true value may lie off. */
  uncertainty: string | undefined;
  /** What says that something it is computed from holds a special number. */
  special: string;
}

export function typesOf(field: Field): CodeTypes {
  const reads = readsOf(field);
  if (reads === 'text')
    return { raw: `STRING[${roomOf(field)}]`, own: `STRING[${roomOf(field)}]`, engineered: false };
  if (reads === 'bytes') return { raw: 'BYTE', own: 'BYTE', engineered: false };
  const width = widthFor(Math.min(64, field.bits));
  const raw = field.type === 'BITS' ? bitString[width] : reads === 'bcd' ? unsigned[width] : field.type;
  const engineered = reads !== 'boolean' && Boolean(field.scale ?? field.decimals ?? field.sign);
  return { raw, own: engineered ? (field.bits > 16 ? 'LREAL' : 'REAL') : raw, engineered };
}

const holdsSpecials = (field: Field) => field.specials.length > 0 && readsOf(field) !== 'boolean';

/** Names of what stands beside the fields of one structure, by the id of the field; each the only one there. */
function besideNames(members: readonly Variable[], further: readonly string[]) {
  const fields = members.flatMap((m) => (m.kind === 'field' && holdsSpecials(m.field) ? [m] : []));
  const wanted = [...members.map((m) => m.name), ...fields.map((m) => `${m.name}_special`), ...further];
  const names = uniqueIdentifiers(wanted).slice(members.length);
  return {
    specials: new Map(fields.map(({ field }, i) => [field.id, names[i]!])),
    further: names.slice(fields.length),
  };
}

/** All names of an image's structure. */
export interface CodeNames {
  members: Member[];
  derived: DerivedMember[];
}

export function namesOf(image: Image): CodeNames {
  const specials = new Map<string, string>();
  const collect = (variables: readonly Variable[]): void => {
    for (const [id, name] of besideNames(variables, []).specials) specials.set(id, name);
    for (const variable of variables) if (variable.kind === 'group') collect(variable.members);
  };
  const top = variablesOf(image).members;
  collect(top);
  const members = signalsInside(image).map((signal): Member => {
    const field = image.fields.find((f) => f.id === signal.of)!;
    const path = pathOf(image, signal);
    const special = specials.get(field.id);
    const within = path.slice(0, path.lastIndexOf('.') + 1);
    const index = field.array ? `[${signal.index.at(-1)}]` : '';
    return {
      ...typesOf(field),
      signal,
      path,
      special: special === undefined ? undefined : `${within}${special}${index}`,
    };
  });
  const values = derivedOf(image);
  const { further } = besideNames(
    top,
    values.flatMap(({ name }) => [name, `${name}_uncertainty`, `${name}_special`]),
  );
  const derived = values.map((value, i): DerivedMember => ({
    derived: value,
    name: further[3 * i]!,
    uncertainty: value.uncertainty ? further[3 * i + 1]! : undefined,
    special: further[3 * i + 2]!,
  }));
  return { members, derived };
}

/** What the comment behind a variable says. */
function factsOf(scene: AddressScene, field: Field, first: Signal, source: string | undefined): string {
  const { controller, device } = fieldAddress(scene, first);
  const labels = field.labels.map((l) => `${l.value} = ${l.text}`).join(', ');
  const bits = field.bitLabels.map((l) => `bit ${l.bit} = ${l.text}`).join(', ');
  const { minimum, maximum } = field.limits ?? { minimum: null, maximum: null };
  const limits = [minimum !== null && `minimum ${minimum}`, maximum !== null && `maximum ${maximum}`];
  const where = source ?? `${controller}, device ${device}`;
  const repeated = field.array ?? field.group;
  return [
    field.unit,
    ...limits,
    labels,
    bits,
    field.normallyClosed ? '0 acts' : '',
    field.note,
    repeated ? `the first at ${where}` : where,
  ]
    .filter(Boolean)
    .join('; ');
}

/** The declared type of a field's variable. */
function declared(field: Field): string {
  const { own } = typesOf(field);
  const dimensions = [
    ...(field.array ? [`0..${field.array.count - 1}`] : []),
    ...(readsOf(field) === 'bytes' ? [`0..${field.bits / 8 - 1}`] : []),
  ];
  return dimensions.length ? `ARRAY[${dimensions.join(', ')}] OF ${own}` : own;
}

/**
 * The types of an image's structure: one for each group, and the whole. `sourceOf` says where a field comes from that
 * no register brings.
 */
export function typeTexts(
  typeName: string,
  scene: AddressScene,
  derived: readonly DerivedMember[],
  sourceOf: (signal: Signal) => string | undefined,
): string[] {
  const { image } = scene;
  const signals = signalsInside(image);
  const structure = (name: string, variables: readonly Variable[], further: readonly string[]): string[] => {
    const { specials } = besideNames(variables, []);
    const before: string[] = [];
    const lines = variables.flatMap((variable): string[] => {
      if (variable.kind === 'group') {
        const { group, members } = variable;
        const inner = name.replace(/_t$/, `_${variable.name}_t`);
        before.push(...structure(inner, members, []), '');
        const type =
          group.count > 1 ? `ARRAY[${group.first}..${group.first + group.count - 1}] OF ${inner}` : inner;
        return [`    ${variable.name} : ${type};`];
      }
      const { field } = variable;
      const first = signals.find((s) => s.of === field.id)!;
      const facts = comment(factsOf(scene, field, first, sourceOf(first)));
      const special = specials.get(field.id);
      const array = field.array ? `ARRAY[0..${field.array.count - 1}] OF ` : '';
      return [
        `    ${variable.name} : ${declared(field)}; ${facts}`,
        ...(special
          ? [`    ${special} : ${array}USINT; ${comment(`${specialText}; the value is 0 unless measured`)}`]
          : []),
      ];
    });
    const all = [...lines, ...further];
    return [
      ...before,
      'TYPE',
      `  ${name} : STRUCT`,
      ...(all.length ? all : ['    no_field_yet : BOOL;']),
      '  END_STRUCT;',
      'END_TYPE',
    ];
  };
  const values = derived.flatMap(({ derived: { expression, unit, note, uncertainty }, ...names }) => [
    `    ${names.name} : LREAL; ${comment([unit, note, expression].filter(Boolean).join('; '))}`,
    ...(names.uncertainty
      ? [`    ${names.uncertainty} : LREAL; ${comment(`on either side; ${uncertainty}`)}`]
      : []),
    `    ${names.special} : USINT; ${comment(`${specialText}, of what it is computed from`)}`,
  ]);
  return structure(typeName, variablesOf(image).members, values);
}
