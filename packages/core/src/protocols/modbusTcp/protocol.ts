import { nothingSaid } from '../link.js';
import type { ConnectionPoint } from '../../devices/description.js';
import { commonFaults, faultOf } from '../../devices/fault.js';
import type { Protocol } from '../protocol.js';
import { modbusPort } from './frame.js';
import { blockTimes, registerStreams } from './budget.js';
import { modbusTcpCauses } from './causes.js';
import { explainFrame } from './explain.js';
import { blockBytes, ModbusTcpLink, ModbusTcpOffer } from './link.js';
import { blockAgainstDescription, blockInPlace, blockReadOnly, blocksOverlap, someBlocks } from './rules.js';

/** Modbus over TCP (Application Protocol V1.1b3; Messaging on TCP/IP Implementation Guide V1.0b). */
export const modbusTcp: Protocol<ModbusTcpLink, ModbusTcpOffer> = {
  id: 'modbus-tcp',
  title: 'Modbus TCP',
  link: ModbusTcpLink,
  offer: ModbusTcpOffer,
  connections: { blocks: { title: 'blocks of registers', cyclic: false } },
  placeOf: (link, direction) => {
    const first = link.blocks.find((b) => b.direction === direction);
    return first ? `${first.table} registers from ${first.start}` : '';
  },
  times: blockTimes,
  withUpdate: ({ blocks }, us) => ({ blocks: blocks.map((block) => ({ ...block, poll: us })) }),
  timing: ({ timeoutMultiplier }) => ({ timeoutMultiplier }),
  budget: registerStreams,
  create: ({ id, command, feedback }) => ({
    id,
    protocol: 'modbus-tcp',
    connection: 'blocks',
    unit: 255,
    port: modbusPort,
    timeoutMultiplier: 4,
    blocks: [],
    onLoss: 'hold',
    ...nothingSaid,
    command,
    feedback,
  }),
  renewed: (link, newId) => ({
    ...link,
    id: newId(),
    blocks: link.blocks.map((block) => ({ ...block, id: newId() })),
  }),
  partIds: ({ blocks }) => blocks.map(({ id }, b) => ({ kind: 'block', id, path: ['blocks', b, 'id'] })),
  // Only an image of one whole run of registers is that run; where several make one image, each is judged by its
  // registers.
  pointFor: ({ blocks }, direction, { points }) => {
    const own = blocks.filter((b) => b.direction === direction);
    const [block] = own;
    if (own.length !== 1 || !block || block.at !== 0) return undefined;
    return points.find(
      ({ use, registers }) =>
        use === direction && registers?.table === block.table && registers.start === block.start,
    );
  },
  pointsOf: ({ blocks }) =>
    blocks.map((block, i): ConnectionPoint => ({
      number: i + 1,
      use: block.direction,
      title: block.name,
      size: blockBytes(block),
      order: 'big',
      groups: [],
      fields: null,
      registers: { table: block.table, start: block.start },
    })),
  offerOf: () => ({ protocol: 'modbus-tcp', watchdogMs: null }),
  runs: ({ blocks }, direction) => blocks.filter((b) => b.direction === direction),
  ages: ({ blocks, timeoutMultiplier }) =>
    blocks
      .filter(({ fresh, age }) => fresh !== null || age !== null)
      .map((block) => ({
        run: block.name,
        from: block.at,
        to: block.at + blockBytes(block),
        limitMs: (block.poll / 1000) * timeoutMultiplier,
        fresh: block.fresh,
        age: block.age,
      })),
  // A register is a number of 16 bits, whatever order its bytes have on the wire.
  elements: { elementBits: 16, elementOrder: 'big' },
  reading: (link) =>
    link.blocks.every((b) => b.direction === 'feedback')
      ? link
      : { ...link, blocks: link.blocks.filter((b) => b.direction === 'feedback') },
  sends: ({ blocks }) =>
    blocks
      .filter((b) => b.direction === 'command')
      .map(({ table, start, count, poll }) => {
        const places = table === 'coils' ? `${count} coils` : `${count} ${table} registers`;
        return `zeros to ${places} from ${start} every ${poll / 1000} ms`;
      })
      .join('; '),
  rules: [someBlocks, blockInPlace, blocksOverlap, blockReadOnly, blockAgainstDescription],
  causes: modbusTcpCauses,
  // More registers than are asked for are not noticed by whoever asks.
  faults: () => commonFaults.map((kind) => faultOf(kind, kind === 'assembly-resized' ? { by: -2 } : {})),
  parameterPlaces: ['register', 'index', 'port'],
  explain: explainFrame,
  scan: { answers: true, setsAddress: false },
};
