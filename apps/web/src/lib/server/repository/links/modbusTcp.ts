import type { Block, LinkOf } from '@fadenkreuz/core';
import { byPosition, grouped } from '../rowOrder.js';
import { rowOf, type LinkTable } from './linkTable.js';

interface ModbusTcpRow {
  id: string;
  unit: number;
  port: number;
  timeout_multiplier: LinkOf<'modbus-tcp'>['timeoutMultiplier'];
}

interface BlockRow extends Block {
  link_id: string;
  position: number;
}

export const modbusTcpTable: LinkTable<'modbus-tcp'> = {
  protocol: 'modbus-tcp',
  tables: ['link_modbus_tcp', 'block'],
  toRows: ({ id, unit, port, timeoutMultiplier, blocks }) => {
    const row: ModbusTcpRow = { id, unit, port, timeout_multiplier: timeoutMultiplier };
    return {
      link_modbus_tcp: [row],
      block: blocks.map((block, position): BlockRow => ({ ...block, link_id: id, position })),
    };
  },
  fromRows: ({ link_modbus_tcp, block }) => {
    const of = rowOf<ModbusTcpRow>(link_modbus_tcp);
    const blocksOf = grouped(byPosition((block ?? []) as BlockRow[]), (b) => b.link_id);
    return (id) => {
      const { unit, port, timeout_multiplier } = of(id);
      return {
        unit,
        port,
        timeoutMultiplier: timeout_multiplier,
        blocks: (blocksOf.get(id) ?? []).map((b) => ({
          id: b.id,
          name: b.name,
          direction: b.direction,
          table: b.table,
          start: b.start,
          count: b.count,
          poll: b.poll,
          at: b.at,
          fresh: b.fresh,
          age: b.age,
        })),
      };
    };
  },
};
