import { registerTables } from '../layout/registerTables.js';
import { ParameterPlace } from '../devices/parameter.js';
import { wholeEntry } from './cells.js';

/** The class of the Parameter object, and its attribute that holds the value (CIP Vol. 1, 5-14). */
export const parameterClass = 0x0f;
export const parameterValue = 1;

/** The attribute that holds the value where a class has only one such; undefined for all others. */
export const valueAttributeOf = (objectClass: number | null | undefined): number | undefined =>
  objectClass === parameterClass ? parameterValue : undefined;

/** Object dictionaries begin here (CiA 301) and are written in hex; IO-Link's indexes below are decimal in manuals. */
const firstObject = 0x1000;
const indexText = (index: number) =>
  index < firstObject ? String(index) : `16#${index.toString(16).toUpperCase()}`;

/** A place as people write it; readPlace takes it back. */
export function placeText(place: ParameterPlace | null): string {
  switch (place?.way) {
    case undefined:
      return '';
    case 'attribute':
      return `class ${place.class} instance ${place.instance} attribute ${place.attribute}`;
    case 'register':
      return `${place.table} ${place.start}`;
    case 'index':
      return `index ${indexText(place.index)} subindex ${place.subindex}`;
    case 'record':
      return `slot ${place.slot} subslot ${place.subslot} index ${place.index} byte ${place.at}`;
    case 'pnu':
      return `pnu ${place.number} subindex ${place.subindex} object ${place.object}`;
    case 'port':
      return `port ${place.port} index ${place.index} subindex ${place.subindex}`;
  }
}

/**
 * The numbers behind words: `class 16#F instance 3` is { class: 15, instance: 3 }; undefined when a word has none or
 * comes twice.
 */
function numbersByWord(text: string): Record<string, number> | undefined {
  const parts = text.toLowerCase().match(/[^\s,;:=]+/g) ?? [];
  const found: Record<string, number> = {};
  for (let i = 0; i < parts.length; i += 2) {
    const value = wholeEntry(parts[i + 1] ?? '');
    if (value === undefined || Object.hasOwn(found, parts[i]!)) return undefined;
    found[parts[i]!] = value;
  }
  return found;
}

/**
 * `class 16#0F instance 3 attribute 1`, `holding 40`, `index 16#60FF subindex 0`, `port 2 index 24 subindex 0`, `pnu
 * 840 subindex 0 object 1`, `slot 1 subslot 1 index 100 byte 2`; numbers also as 0x0F or 0Fh. The attribute may be
 * left out for the Parameter object alone, whose value is attribute 1. Undefined for any other text, and where the
 * class of an instance is not said.
 */
export function readPlace(text: string): ParameterPlace | undefined {
  const said = numbersByWord(text);
  if (!said) return undefined;
  const table = registerTables.find((t) => t in said);
  const words = Object.keys(said);
  const only = (...allowed: string[]) => words.every((word) => allowed.includes(word));
  const place =
    'instance' in said && only('class', 'instance', 'attribute')
      ? { way: 'attribute', attribute: valueAttributeOf(said['class']), ...said }
      : table && only(table)
        ? { way: 'register', table, start: said[table] }
        : 'slot' in said && 'index' in said && only('slot', 'subslot', 'index', 'byte')
          ? {
              way: 'record',
              slot: said['slot'],
              subslot: said['subslot'] ?? 1,
              index: said['index'],
              at: said['byte'] ?? 0,
            }
          : 'pnu' in said && only('pnu', 'subindex', 'object')
            ? {
                way: 'pnu',
                number: said['pnu'],
                subindex: said['subindex'] ?? 0,
                object: said['object'] ?? 1,
              }
            : 'port' in said && 'index' in said && only('port', 'index', 'subindex')
              ? { way: 'port', subindex: 0, ...said }
              : 'index' in said && only('index', 'subindex')
                ? { way: 'index', subindex: 0, ...said }
                : undefined;
  const parsed = ParameterPlace.safeParse(place);
  return parsed.success ? parsed.data : undefined;
}
