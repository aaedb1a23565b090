import { describe, expect, test } from 'vitest';
import { applyEdit, readEdit } from '../cell/edits/edit.js';
import type { LinkOf } from '../cell/link.js';
import { demoDescription, testCell, testDevice, testLink } from '../cell/testCell.js';
import { Block } from '../protocols/modbusTcp/link.js';
import type { Device } from '../cell/model.js';
import { check } from './check.js';

const block = (part: Partial<Block>): Block =>
  Block.parse({
    id: part.name ?? 'b',
    name: 'b',
    direction: 'feedback',
    table: 'holding',
    start: 3000,
    count: 2,
    poll: 100_000,
    at: 0,
    ...part,
  });
const cellWith = (link: Partial<LinkOf<'ethernet-ip'>>, device: Partial<Device> = {}) =>
  testCell([{ ...testDevice(device), links: [testLink('ethernet-ip', { onLoss: 'drop', ...link })] }]);
const modbus = (blocks: Block[], description?: Device['description']) =>
  testCell([{ ...testDevice(description && { description }), links: [testLink('modbus-tcp', { blocks })] }]);
const codes = (cell: ReturnType<typeof testCell>) => check(cell).map((f) => f.code);

describe('blocks of a Modbus link', () => {
  test.each<[string, Block[], string[]]>([
    ['none at all', [], ['block.none']],
    ['two registers at the end of 12 bytes', [block({ at: 8 })], []],
    ['one byte past the end', [block({ at: 9 })], ['block.pastImage']],
    ['nine coils take two bytes', [block({ table: 'coils', count: 9, at: 10 })], []],
    ['… and not the third', [block({ table: 'coils', count: 17, at: 10 })], ['block.pastImage']],
    ['the last register is 65535', [block({ start: 65_534 })], []],
    ['there is no register 65536', [block({ start: 65_535 })], ['block.pastTable']],
    ['side by side', [block({ name: 'a' }), block({ name: 'c', at: 4 })], []],
    ['one byte shared', [block({ name: 'a' }), block({ name: 'c', at: 3 })], ['block.overlap']],
    [
      'other directions have other bytes',
      [block({ name: 'a' }), block({ name: 'c', direction: 'command' })],
      [],
    ],
    [
      'input registers cannot be written',
      [block({ table: 'input', direction: 'command' })],
      ['block.readOnly'],
    ],
  ])('%s', (_says, blocks, expected) => expect(codes(modbus(blocks))).toEqual(expected));

  test.each([
    ['as the device has them', 3000, 'holding', undefined],
    ['one too high: the manual counted from 1', 3001, 'holding', 3000],
    ['the reference number of the manual', 43_001, 'holding', 3000],
    ['nothing near', 5000, 'holding', null],
  ] as const)('%s', (_says, start, table, cure) => {
    const cell = modbus([block({ start, table, count: 10 })], demoDescription('brine_pump_m2'));
    const found = check({ ...cell }).filter((f) => f.code === 'block.noSuchRegisters');
    if (cure === undefined) return expect(found).toEqual([]);
    expect(found).toHaveLength(1);
    if (cure === null) return expect(found[0]!.fix).toBeUndefined();
    const mended = applyEdit(cell, readEdit(found[0]!.fix!.edit));
    expect(mended.devices[0]!.links[0]).toMatchObject({ blocks: [{ start: cure }] });
    expect(codes(mended)).not.toContain('block.noSuchRegisters');
  });
});

describe('a link against what the device does', () => {
  const identity = { description: demoDescription('climate_io_u1') };
  test.each<[string, Partial<LinkOf<'ethernet-ip'>>, Partial<Device>, string | undefined]>([
    ['connected requests drop', { connection: 'polled-connected', onLoss: 'drop' }, {}, undefined],
    ['… and do not hold', { connection: 'polled-connected', onLoss: 'hold' }, {}, 'link.lossContradicts'],
    ['unconnected ones hold', { connection: 'polled-unconnected', onLoss: 'hold' }, {}, undefined],
    ['… and do not drop', { connection: 'polled-unconnected', onLoss: 'drop' }, {}, 'link.lossContradicts'],
    [
      'configuration bit 16 says hold',
      { onLoss: 'drop', configuration: { instance: 150, data: 'F4010100' } },
      identity,
      'link.lossContradicts',
    ],
    [
      'configuration bit 16 says drop',
      { onLoss: 'drop', configuration: { instance: 150, data: 'F4010000' } },
      identity,
      undefined,
    ],
    [
      'bare commands to a device that wants the run word',
      { commandFormat: 'modeless' },
      identity,
      'link.formatDiffers',
    ],
    ['explicit messages only', {}, { description: demoDescription('gripper_valves_q1') }, 'link.notCyclic'],
    [
      'EtherNet/IP to a Modbus device',
      {},
      { description: demoDescription('brine_pump_m2') },
      'link.otherProtocol',
    ],
  ])('%s', (_says, link, device, expected) => {
    const cell = cellWith(link, device);
    const found = check(cell).filter((f) => f.code.startsWith('link.'));
    expect(found.map((f) => f.code)).toEqual(expected ? [expected] : []);
    for (const { code, fix } of found)
      if (fix) expect(codes(applyEdit(cell, readEdit(fix.edit)))).not.toContain(code);
  });

  test('a link whose protocol and connection do not belong together is no cell', () => {
    const cell = cellWith({});
    const edit = { edit: 'link.set', link: 'l1', set: { connection: 'blocks' } } as const;
    expect(() => applyEdit(cell, edit)).toThrow(/links\[0\].connection/);
    const unit = { edit: 'link.set', link: 'l1', set: { unit: 1 } } as const;
    expect(() => applyEdit(cell, unit)).toThrow(/unit/);
  });
});
