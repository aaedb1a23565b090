import type { AddressRange, Cell, Exchange, ExchangeStep, MachineRow, Notation } from '@fadenkreuz/core';
import { byPosition, grouped } from './rowOrder.js';

/** The cell itself with its controller and network as a row. */
export interface CellRow {
  id: string;
  name: string;
  designation: string;
  controller_name: string;
  controller_designation: string;
  controller_address: string;
  controller_element_bits: Cell['controller']['elementBits'];
  controller_element_order: Cell['controller']['elementOrder'];
  controller_notation: string;
  controller_direct_counts: NonNullable<Cell['controller']['direct']>['counts'] | null;
  controller_input_from: number;
  controller_output_from: number;
  subnet: string;
  gateway: string | null;
  further_subnets: string[];
  rate: Cell['network']['rate'];
  naming_pattern: string;
  naming_longest: number;
  controller_cycle: number;
  controller_connections: number | null;
  controller_packets: number | null;
  controller_shortest_update: number | null;
  sets: Cell['sets'];
}

export interface AddressRangeRow extends AddressRange {
  position: number;
}

export interface NotationRow {
  id: string;
  position: number;
  title: string;
  side: Notation['side'];
  pattern: string;
  /** A number, `element` or `field`. */
  unit_bits: string;
  order: Notation['order'];
  counts: Notation['counts'];
  from: Notation['from'];
  first: number;
  first_bit: number;
  last: number | null;
  ranges: boolean;
}

/** A line of the machine around the devices. */
export interface MachineLineRow extends MachineRow {
  position: number;
}

/** An exchange without its steps. */
export interface ExchangeRow extends Omit<Exchange, 'steps'> {
  position: number;
}
export interface ExchangeStepRow extends ExchangeStep {
  position: number;
  exchange_id: string;
}

/** A cell without its devices, as rows. */
export interface HeadRows {
  cell: CellRow[];
  address_range: AddressRangeRow[];
  machine_line: MachineLineRow[];
  exchange: ExchangeRow[];
  exchange_step: ExchangeStepRow[];
  notation: NotationRow[];
}

type Head = Omit<Cell, 'devices'>;

export const toHeadRows = (cell: Head): HeadRows => {
  const { controller, network, naming } = cell;
  return {
    cell: [
      {
        id: cell.id,
        name: cell.name,
        designation: cell.designation,
        controller_name: controller.name,
        controller_designation: controller.designation,
        controller_address: controller.address,
        controller_element_bits: controller.elementBits,
        controller_element_order: controller.elementOrder,
        controller_notation: controller.notation,
        controller_direct_counts: controller.direct?.counts ?? null,
        controller_input_from: controller.direct?.inputFrom ?? 0,
        controller_output_from: controller.direct?.outputFrom ?? 0,
        subnet: network.subnet,
        gateway: network.gateway,
        further_subnets: network.further,
        rate: network.rate,
        naming_pattern: naming.pattern,
        naming_longest: naming.longest,
        controller_cycle: controller.cycle,
        controller_connections: controller.limits.connections,
        controller_packets: controller.limits.packets,
        controller_shortest_update: controller.limits.update,
        sets: cell.sets,
      },
    ],
    address_range: network.ranges.map((range, position) => ({ position, ...range })),
    machine_line: cell.machine.map((line, position) => ({ position, ...line })),
    exchange: cell.exchanges.map(({ steps: _, ...exchange }, position) => ({ position, ...exchange })),
    exchange_step: cell.exchanges.flatMap((exchange) =>
      exchange.steps.map((step, position) => ({ position, exchange_id: exchange.id, ...step })),
    ),
    notation: cell.notations.map(({ unitBits, firstBit, ...rest }, position) => ({
      position,
      unit_bits: String(unitBits),
      first_bit: firstBit,
      ...rest,
    })),
  };
};

/** Lists in any order; the result is as the schema orders it. */
export function fromHeadRows(rows: HeadRows): Head {
  const cell = rows.cell[0]!;
  const stepsOf = grouped(byPosition(rows.exchange_step), (s) => s.exchange_id);
  return {
    id: cell.id,
    name: cell.name,
    designation: cell.designation,
    controller: {
      name: cell.controller_name,
      designation: cell.controller_designation,
      address: cell.controller_address,
      elementBits: cell.controller_element_bits,
      elementOrder: cell.controller_element_order,
      notation: cell.controller_notation,
      direct: cell.controller_direct_counts && {
        counts: cell.controller_direct_counts,
        inputFrom: cell.controller_input_from,
        outputFrom: cell.controller_output_from,
      },
      cycle: cell.controller_cycle,
      limits: {
        connections: cell.controller_connections,
        packets: cell.controller_packets,
        update: cell.controller_shortest_update,
      },
    },
    network: {
      subnet: cell.subnet,
      further: cell.further_subnets,
      gateway: cell.gateway,
      ranges: byPosition(rows.address_range).map(({ id, first, last, kind, title }) => ({
        id,
        first,
        last,
        kind,
        title,
      })),
      rate: cell.rate,
    },
    naming: { pattern: cell.naming_pattern, longest: cell.naming_longest },
    notations: byPosition(rows.notation).map((n) => ({
      id: n.id,
      title: n.title,
      side: n.side,
      pattern: n.pattern,
      unitBits: unitBitsOf(n.unit_bits),
      order: n.order,
      counts: n.counts,
      from: n.from,
      first: n.first,
      firstBit: n.first_bit,
      last: n.last,
      ranges: n.ranges,
    })),
    machine: byPosition(rows.machine_line).map(({ id, name, expression, unit, begins, note }) => ({
      ...{ id, name, expression, unit, begins, note },
    })),
    exchanges: byPosition(rows.exchange).map(({ id, name, note, preconditions, variables }) => ({
      ...{ id, name, note, preconditions, variables },
      steps: (stepsOf.get(id) ?? []).map(toStep),
    })),
    sets: cell.sets,
  };
}

const toStep = ({ position: _, exchange_id: __, ...step }: ExchangeStepRow): ExchangeStep => ({
  id: step.id,
  title: step.title,
  orders: step.orders,
  conditions: step.conditions,
  any: step.any,
  updates: step.updates,
  least: step.least,
  limit: step.limit,
  reason: step.reason,
  late: step.late,
  fails: step.fails,
  results: step.results,
  branches: step.branches,
  repeat: step.repeat,
});

/** The column is text; only numbers and the two words are ever written. */
const unitBitsOf = (text: string) =>
  (text === 'element' || text === 'field' ? text : Number(text)) as Notation['unitBits'];
