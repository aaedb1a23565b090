import type { Notation } from './notation.js';

const device: Pick<Notation, 'side' | 'order' | 'counts' | 'from' | 'firstBit' | 'last' | 'ranges'> = {
  side: 'device',
  order: 'little',
  counts: 'units',
  from: 'image',
  firstBit: 0,
  last: null,
  ranges: false,
};
/** Registers travel high byte first (Modbus Application Protocol V1.1b3, 4.2). */
const register = { ...device, unitBits: 16, order: 'big' } as const;
const controller = { ...device, side: 'controller', order: 'element' } as const;
/** Direct addresses (IEC 61131-3:2013, table 16) count through the controller's area, as the controller has it. */
const direct = { ...controller, counts: 'controller', from: 'area', first: 0 } as const;

/**
 * The standard ways to write addresses. Reference numbers of registers are a convention of the trade: the digit in
 * front says the kind of register (4 holding, 3 input), the rest counts from 1.
 */
export const standardNotations: readonly Notation[] = [
  { ...device, id: 'byte', title: 'byte and bit', pattern: 'byte {unit} · bit {bit}', unitBits: 8, first: 0 },
  {
    ...device,
    id: 'word',
    title: '16-bit word and bit',
    pattern: 'word {unit} · bit {bit}',
    unitBits: 16,
    order: 'image',
    first: 0,
  },
  {
    ...device,
    id: 'dword',
    title: '32-bit double word and bit',
    pattern: 'dword {unit} · bit {bit}',
    unitBits: 32,
    order: 'image',
    first: 0,
  },
  { ...device, id: 'point', title: 'points from 1', pattern: 'point {unit}', unitBits: 1, first: 1 },
  { ...device, id: 'bit', title: 'bits from 0', pattern: 'bit {unit}', unitBits: 1, first: 0 },
  {
    ...device,
    id: 'signal',
    title: 'numbered signals',
    pattern: 'signal {unit}',
    unitBits: 1,
    ranges: true,
    first: 0,
  },
  {
    ...device,
    id: 'slot',
    title: 'slot, subslot and byte',
    pattern: 'slot {slot}.{subslot} · byte {unit} · bit {bit}',
    unitBits: 8,
    first: 0,
  },
  {
    ...register,
    id: 'register-0',
    title: 'registers from 0',
    pattern: 'register {unit} · bit {bit}',
    first: 0,
  },
  {
    ...register,
    id: 'register-1',
    title: 'registers from 1',
    pattern: 'register {unit} · bit {bit}',
    first: 1,
  },
  {
    ...register,
    id: 'register-hex',
    title: 'registers from 0, hex',
    pattern: 'register 16#{unit:hex} · bit {bit}',
    first: 0,
  },
  {
    ...register,
    id: 'holding-6',
    title: 'holding register references, 6 digits',
    pattern: '{unit:6} · bit {bit}',
    first: 400_001,
    last: 465_536,
  },
  {
    ...register,
    id: 'holding-5',
    title: 'holding register references, 5 digits',
    pattern: '{unit:5} · bit {bit}',
    first: 40_001,
    last: 49_999,
  },
  {
    ...register,
    id: 'input-6',
    title: 'input register references, 6 digits',
    pattern: '{unit:6} · bit {bit}',
    first: 300_001,
    last: 365_536,
  },
  {
    ...register,
    id: 'input-5',
    title: 'input register references, 5 digits',
    pattern: '{unit:5} · bit {bit}',
    first: 30_001,
    last: 39_999,
  },
  {
    ...register,
    id: 'reference-6',
    title: 'register references, 6 digits, by table',
    pattern: '{unit:6} · bit {bit}',
    first: 400_001,
    last: 465_536,
  },
  {
    ...register,
    id: 'reference-5',
    title: 'register references, 5 digits, by table',
    pattern: '{unit:5} · bit {bit}',
    first: 40_001,
    last: 49_999,
  },

  {
    ...controller,
    id: 'element',
    title: 'array element and bit',
    pattern: '{array}[{unit}].%X{bit}',
    unitBits: 'element',
    first: 0,
  },
  {
    ...controller,
    id: 'path',
    title: 'name path',
    pattern: '{device}.{array}.{unit}.%X{bit}',
    unitBits: 'field',
    first: 0,
  },
  { ...direct, id: 'direct-bit', title: 'direct bit', pattern: '%{area}X{unit}.{bit}', unitBits: 8 },
  { ...direct, id: 'direct-byte', title: 'direct byte', pattern: '%{area}B{unit}.%X{bit}', unitBits: 8 },
  { ...direct, id: 'direct-word', title: 'direct word', pattern: '%{area}W{unit}.%X{bit}', unitBits: 16 },
  {
    ...direct,
    id: 'direct-dword',
    title: 'direct double word',
    pattern: '%{area}D{unit}.%X{bit}',
    unitBits: 32,
  },
  {
    ...direct,
    id: 'direct-lword',
    title: 'direct long word',
    pattern: '%{area}L{unit}.%X{bit}',
    unitBits: 64,
  },
];
