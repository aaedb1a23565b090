import { holdsBits } from '../../layout/registerTables.js';
import type { LinkTimes } from '../link.js';
import type { Streams } from '../protocol.js';
import { blockBytes, type Block, type ModbusTcpLink } from './link.js';
import { limits } from './pdu.js';
import { readPlan } from './readPlan.js';

/** Header of a Modbus TCP message, function code included (Application Protocol V1.1b3, 4.1). */
const modbusHead = 8;
/** Silence that is never too long, ms. */
const shortestSilence = 100;

/**
 * Reads of 4 bytes behind the head and answers with a byte count; writes with 5 more and answers of 4 (V1.1b3, 6.1 to
 * 6.12).
 */
export function registerStreams({ blocks }: Pick<ModbusTcpLink, 'blocks'>): Streams {
  const exchange = blocks.flatMap((block) => {
    const perSecond = 1e6 / block.poll;
    const reads = block.direction === 'feedback';
    const maximum = limits[`${reads ? 'read' : 'write'}${holdsBits(block.table) ? 'Bits' : 'Registers'}`];
    return readPlan([block], maximum).map((part) => {
      const data = blockBytes({ table: block.table, count: part.count });
      return reads
        ? { question: modbusHead + 4, answer: modbusHead + 1 + data, perSecond }
        : { question: modbusHead + 5 + data, answer: modbusHead + 4, perSecond };
    });
  });
  return {
    command: exchange.map(({ question, perSecond }) => ({ payload: question, perSecond })),
    feedback: exchange.map(({ answer, perSecond }) => ({ payload: answer, perSecond })),
    transport: 'tcp',
  };
}

/** The slowest block of each direction counts; the quickest of all says how long silence is too long. */
export function blockTimes({ blocks, timeoutMultiplier }: ModbusTcpLink): LinkTimes {
  const slowest = (direction: Block['direction']) =>
    Math.max(0, ...blocks.filter((b) => b.direction === direction).map((b) => b.poll)) / 1000;
  const quickest = Math.min(...blocks.map((b) => b.poll), 1_000_000) / 1000;
  return {
    commandMs: slowest('command'),
    feedbackMs: slowest('feedback'),
    quickestMs: quickest,
    lossMs: Math.max(quickest * timeoutMultiplier, shortestSilence),
  };
}
