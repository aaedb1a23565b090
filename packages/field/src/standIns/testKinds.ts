import {
  descriptionByHand,
  Device,
  protocolById,
  unknownIdentity,
  unknownNameplate,
  type Link,
  type Role,
} from '@fadenkreuz/core';

/** Devices of each kind in two layouts that have nothing in common, for tests and measurements. */

type DeviceKind = Device['kind'];

export interface Wanted {
  is: Role;
  /** How many there are of a numbered one. */
  count?: number;
  unit?: string;
  text?: number;
}
/** Where a value stands in an image: bits from its start. */
export interface Spot {
  key: string;
  at: number;
  bits: number;
  way: 'bit' | 'low' | 'high' | 'text';
  /** Counts of one unit. */
  per: number;
}
export interface Layout {
  size: number;
  spots: Spot[];
  fields: object[];
}

const single = (wanted: readonly Wanted[]) =>
  wanted.flatMap(({ count = 1, ...one }) =>
    Array.from({ length: count }, (_, i) => ({ ...one, n: count > 1 ? i + 1 : null })),
  );
const keyOf = ({ is, n }: { is: Role; n: number | null }) => (n === null ? is : `${is} ${n}`);
const isNumber = (one: Wanted) => one.unit !== undefined;
const nameOf = (key: string) => key.replaceAll(/[^a-z0-9]/g, '_');

/** Bits one by one, then numbers as INT in hundredths or USINT, then texts. */
export function bitsFirst(wanted: readonly Wanted[]): Layout {
  const all = single(wanted);
  const layout: Layout = { size: 0, spots: [], fields: [] };
  let at = 0;
  const add = (one: (typeof all)[number], bits: number, spot: Pick<Spot, 'way' | 'per'>, more: object) => {
    const key = keyOf(one);
    layout.spots.push({ key, at, bits, ...spot });
    layout.fields.push({
      ...{ id: `f${layout.fields.length}`, name: nameOf(key), at, bits, role: { is: one.is, number: one.n } },
      ...more,
    });
    at += bits;
  };
  for (const one of all.filter((o) => !isNumber(o) && !o.text))
    add(one, 1, { way: 'bit', per: 1 }, { type: 'BOOL' });
  at = Math.ceil(at / 16) * 16;
  for (const one of all.filter(isNumber))
    add(
      one,
      16,
      { way: 'low', per: one.unit ? 100 : 1 },
      {
        type: one.unit ? 'INT' : 'UINT',
        unit: one.unit,
        ...(one.unit ? { scale: { factor: '1/100', offset: '0' } } : {}),
      },
    );
  for (const one of all.filter((o) => o.text))
    add(
      one,
      one.text! * 8,
      { way: 'text', per: 1 },
      {
        type: 'STRING',
        text: { prefix: 0, encoding: 'ascii', pad: 0 },
      },
    );
  return { ...layout, size: Math.ceil(at / 16) * 2 };
}

/** Numbers as DINT or UDINT, high byte first; then texts; then words of bits, from the highest down. */
export function numbersFirst(wanted: readonly Wanted[]): Layout {
  const all = single(wanted);
  const layout: Layout = { size: 0, spots: [], fields: [] };
  let at = 0;
  const field = (more: object) =>
    layout.fields.push({ id: `f${layout.fields.length}`, order: 'big', ...more });
  for (const one of all.filter(isNumber)) {
    const key = keyOf(one);
    layout.spots.push({ key, at, bits: 32, way: 'high', per: one.unit ? 1000 : 1 });
    field({
      ...{ name: nameOf(key), type: one.unit ? 'DINT' : 'UDINT', at, bits: 32, unit: one.unit },
      ...(one.unit ? { scale: { factor: '1/1000', offset: '0' } } : {}),
      role: { is: one.is, number: one.n },
    });
    at += 32;
  }
  for (const one of all.filter((o) => o.text)) {
    const key = keyOf(one);
    layout.spots.push({ key, at, bits: one.text! * 8, way: 'text', per: 1 });
    field({
      ...{ name: nameOf(key), type: 'STRING', at, bits: one.text! * 8, role: { is: one.is } },
      text: { prefix: 0, encoding: 'ascii', pad: 0 },
    });
    at += one.text! * 8;
  }
  const bits = all.filter((o) => !isNumber(o) && !o.text);
  for (let from = 0; from < bits.length; from += 16, at += 16) {
    const word = bits.slice(from, from + 16);
    // Bit 15 of a register that is sent high byte first is bit 7 of the first byte.
    word.forEach((one, i) =>
      layout.spots.push({
        key: keyOf(one),
        at: at + (i < 8 ? 7 - i : 8 + 15 - i),
        bits: 1,
        way: 'bit',
        per: 1,
      }),
    );
    field({
      ...{ name: `word_${from / 16}`, type: 'WORD', at, bits: 16 },
      bitRoles: word.map((one, i) => ({ bit: 15 - i, role: { is: one.is, number: one.n } })),
    });
  }
  return { ...layout, size: at / 8 };
}

const bits = (...names: Role[]): Wanted[] => names.map((is) => ({ is }));
const counts = (...names: Role[]): Wanted[] => names.map((is) => ({ is, unit: '' }));

/** What a device of a kind is commanded and what it shows. */
export interface KindRoles {
  kind: DeviceKind;
  commands: readonly Wanted[];
  answers: readonly Wanted[];
}

export const kindsByRoles: readonly KindRoles[] = [
  {
    kind: 'variable-speed drive',
    commands: [...bits('start', 'stop', 'direction'), { is: 'speed reference', unit: 'Hz' }],
    answers: [...bits('running', 'at speed'), { is: 'speed actual', unit: 'Hz' }],
  },
  {
    kind: 'soft starter',
    commands: bits('start', 'stop'),
    answers: [...bits('running', 'faulted'), { is: 'motor current', unit: 'A' }],
  },
  {
    kind: 'servo axis',
    commands: [
      ...bits('enable', 'home', 'setpoint strobe'),
      { is: 'position setpoint', unit: 'mm' },
      { is: 'velocity', unit: 'mm/s' },
      { is: 'acceleration', unit: 'mm/s²' },
    ],
    answers: [
      ...bits('enabled', 'homed', 'setpoint acknowledge', 'target reached'),
      { is: 'position actual', unit: 'mm' },
    ],
  },
  {
    kind: 'robot',
    commands: [...bits('start', 'hold', 'permissive'), ...counts('program number')],
    answers: [...bits('ready', 'program running', 'running', 'done'), ...counts('program shown')],
  },
  {
    kind: 'vision sensor',
    commands: [...bits('trigger', 'result acknowledge', 'program change'), ...counts('program number')],
    answers: [
      ...bits('trigger ready', 'busy', 'result valid', 'pass', 'program changed'),
      ...counts('program shown'),
    ],
  },
  {
    kind: 'safety controller',
    commands: bits('safety reset'),
    answers: [{ is: 'beams', count: 16 }, ...bits('safety in order'), { is: 'object size', unit: 'mm' }],
  },
  {
    kind: 'valve terminal',
    commands: [{ is: 'output', count: 6 }],
    answers: [{ is: 'input', count: 6 }, ...bits('overload')],
  },
  {
    kind: 'weigher',
    commands: bits('tare', 'zero'),
    answers: [...bits('stable'), { is: 'gross', unit: 'kg' }, { is: 'net', unit: 'kg' }],
  },
  {
    kind: 'marker',
    commands: [...counts('sequence number'), { is: 'variable text', text: 12 }],
    answers: [...bits('ready', 'busy', 'printed'), ...counts('sequence number')],
  },
  {
    kind: 'process I/O',
    commands: [{ is: 'analogue output', unit: 'V', count: 2 }],
    answers: [{ is: 'analogue input', unit: 'V', count: 2 }],
  },
  {
    kind: 'IO-Link master',
    commands: [
      { is: 'load power', count: 4 },
      { is: 'port mode', unit: '', count: 4 },
    ],
    answers: [{ is: 'port valid', count: 4 }],
  },
  {
    kind: 'remote I/O',
    commands: [{ is: 'output', count: 16 }],
    answers: [{ is: 'input', count: 16 }],
  },
  {
    kind: 'motor starter',
    commands: bits('forward', 'reverse', 'stop'),
    answers: [...bits('running', 'runs forward', 'runs reverse'), { is: 'motor current', unit: 'A' }],
  },
  {
    kind: 'identification reader',
    commands: bits('trigger'),
    answers: [...bits('busy', 'result valid'), ...counts('result length'), { is: 'result text', text: 12 }],
  },
  {
    kind: 'torque tool',
    commands: [...bits('start'), ...counts('program number')],
    answers: [...bits('running', 'done', 'pass'), { is: 'torque actual', unit: 'Nm' }],
  },
  {
    kind: 'measuring sensor',
    commands: bits('zero'),
    answers: [...bits('faulted'), { is: 'measured value', unit: 'mm' }],
  },
];

/** Ids are one image's alone. */
const named = (fields: readonly object[], image: string): object[] =>
  fields.map((field, i) => ({ ...field, id: `${image}${i}` }));

const sides = (layouts: [Layout, Layout], order: 'little' | 'big') => ({
  command: {
    ...{ id: 'c1', direction: 'command', instance: 130, size: layouts[0].size, start: 0, swapped: false },
    ...{ order, numbering: null, groups: [], fields: named(layouts[0].fields, 'c') },
  } as never,
  feedback: {
    ...{ id: 'f1', direction: 'feedback', instance: 131, size: layouts[1].size, start: 0, swapped: false },
    ...{ order, numbering: null, groups: [], derived: [], fields: named(layouts[1].fields, 'f') },
  } as never,
});

/** Over EtherNet/IP: bits before numbers. */
export const ethernetIpLink = (layouts: [Layout, Layout]): object =>
  protocolById('ethernet-ip').create({ id: 'l1', update: 20_000, ...sides(layouts, 'little') });

/** Over Modbus, from holding register 40 and input register 700 on. */
export function modbusLink(layouts: [Layout, Layout]): object {
  const block = { poll: 20_000, at: 0, fresh: null, age: null };
  const [command, feedback] = layouts.map(({ size }) => size / 2);
  return {
    ...protocolById('modbus-tcp').create({ id: 'l1', update: 20_000, ...sides(layouts, 'big') }),
    blocks: [
      { ...block, id: 'b1', name: 'out', direction: 'command', table: 'holding', start: 40, count: command },
      { ...block, id: 'b2', name: 'in', direction: 'feedback', table: 'input', start: 700, count: feedback },
    ],
  };
}

/** A device by hand with this link; `n` is the last number of its address and names all of its parts. */
export function handMade(kind: DeviceKind, subnet: string, n: number, link: object): Device {
  const own = JSON.parse(JSON.stringify(link), (key, value: unknown) =>
    key === 'id' || (key === 'field' && typeof value === 'string') ? `${String(value)}-${n}` : value,
  ) as Link;
  return Device.parse({
    ...{ ...unknownNameplate, id: `x${n}`, name: `unit_x${n}`, address: `${subnet}.${n}`, designation: '' },
    ...{ serves: '', kind, maker: '', identity: unknownIdentity, simulated: false, orderSelectable: false },
    ...{ links: [own], description: descriptionByHand([own]) },
  });
}
