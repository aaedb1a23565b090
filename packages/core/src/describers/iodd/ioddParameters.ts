import { Parameter } from '../../devices/parameter.js';
import { fieldTypes, isNumber } from '../../layout/fieldTypes.js';
import { engineering, engineeringLimits } from '../shared/engineering.js';
import { labelsOf, tidy } from '../shared/fieldTexts.js';
import type { Iodd, IoddItem, IoddType, IoddVariable } from './iodd.js';
import { fieldType, scaleOf } from './ioddFields.js';
import { standardVariables } from './standard.js';

const accesses = { ro: 'read', rw: 'read-write', wo: 'write' } as const;

/** One value of a variable: the whole, or an item of its record. */
interface Part {
  subindex: number;
  name: string;
  type: IoddType;
  initial: string;
  shown: IoddVariable['shown'];
  help: string;
}

/**
 * The variables of an IO-Link device as parameters of the master at whose port it is, in the group of its name; of a
 * record each item, by its subindex. Codes tell the ports apart: P2.24. What has no length of its own cannot be asked
 * for and is left out.
 */
export function portParameters(
  { variables, menus }: Pick<Iodd, 'variables' | 'menus'>,
  { port, group }: { port: number; group: string },
  newId: () => string,
): Parameter[] {
  const menuOf = new Map(
    menus.flatMap((menu) => menu.entries.map(({ variable }) => [variable, menu.name] as const)),
  );
  return [...variables, ...identification(variables)].flatMap((variable) =>
    partsOf(variable).flatMap((part): Parameter[] => {
      const type = fieldType(part.type);
      const number = isNumber({ type });
      const scale = number ? scaleOf(part.shown) : null;
      const plain = {
        id: newId(),
        code: `P${port}.${variable.index}${part.subindex === 0 ? '' : `.${part.subindex}`}`,
        name: tidy(part.name, 64) || `index ${variable.index}`,
        group: tidy(group, 64),
        place: { way: 'port' as const, port, index: variable.index, subindex: part.subindex },
        type,
        bits: fieldTypes[type].bits ?? part.type.bits,
        access: accesses[variable.access],
        note: tidy([menuOf.get(variable.id) ?? '', part.help].filter(Boolean).join(': '), 200),
      };
      const [range] = part.type.ranges;
      const initial = number && /^[-+]?\d+(\.\d+)?$/.test(part.initial) ? Number(part.initial) : null;
      const parsed = Parameter.safeParse({
        ...plain,
        scale,
        unit: number ? tidy(part.shown?.unit ?? '', 16) : '',
        limits:
          number && range && part.type.ranges.length === 1
            ? engineeringLimits(range, scale ?? undefined)
            : null,
        initial: initial === null ? null : engineering(initial, scale ?? undefined),
        labels: labelsOf(part.type.labels),
      });
      // What a parameter cannot keep is left out of it, not the parameter.
      return [parsed.data ?? Parameter.safeParse(plain).data ?? []].flat();
    }),
  );
}

/** What tells one device from another, which every device has, also where its file does not list it. */
const identification = (listed: readonly IoddVariable[]): IoddVariable[] =>
  ['V_DirectParameters_1', 'V_ProductName'].flatMap((id): IoddVariable[] => {
    const known = standardVariables[id];
    if (!known?.kind || known.bits === undefined || listed.some((v) => v.index === known.index)) return [];
    const { index, name, access, kind, bits } = known;
    const type = { kind, bits, ranges: [], labels: [], items: [] };
    return [{ id, index, name, help: '', access, type, initial: '', standard: true, shown: null }];
  });

const partsOf = (variable: IoddVariable): Part[] => {
  const { type, name, id, help, initial, shown } = variable;
  if (type.items.length > 0)
    return type.items.filter(hasLength).map((item) => ({
      ...{
        subindex: item.subindex,
        type: item.type,
        initial: item.initial,
        shown: item.shown,
        help: item.help,
      },
      name: `${name || id}: ${item.name || `item ${item.subindex}`}`,
    }));
  return hasLength({ type }) ? [{ subindex: 0, name: name || id, type, initial, shown, help }] : [];
};

const hasLength = ({ type }: Pick<IoddItem, 'type'>): boolean => type.bits > 0;
