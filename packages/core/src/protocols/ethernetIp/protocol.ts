import { nothingSaid } from '../link.js';
import { pointsFor, type ConnectionPoint } from '../../devices/description.js';
import { commonFaults, faultOf, packetFaults } from '../../devices/fault.js';
import type { Direction } from '../../layout/image.js';
import type { Protocol } from '../protocol.js';
import { ethernetIpStreams } from './budget.js';
import { ethernetIpCauses } from './causes.js';
import { explainFrame } from './explain.js';
import { EthernetIpLink, EthernetIpOffer, onlyListens } from './link.js';
import { connectionAgainstOffer, instanceAgainstDescription, useOf } from './rules.js';

/** EtherNet/IP (ODVA, CIP Vol. 1 and 2). */
export const ethernetIp: Protocol<EthernetIpLink, EthernetIpOffer> = {
  id: 'ethernet-ip',
  title: 'EtherNet/IP',
  link: EthernetIpLink,
  offer: EthernetIpOffer,
  connections: {
    'exclusive-owner': { title: 'exclusive owner', cyclic: true },
    'input-only': { title: 'input only', cyclic: true },
    'listen-only': { title: 'listen only', cyclic: true },
    'polled-connected': {
      title: 'requests over a connection',
      cyclic: false,
      onLoss: { does: 'drop', why: 'requests over a connection are dropped with it' },
    },
    'polled-unconnected': {
      title: 'requests without a connection',
      cyclic: false,
      onLoss: { does: 'hold', why: 'requests without a connection have nothing that could be lost' },
    },
  },
  placeOf: (link, direction) =>
    direction === 'command' && onlyListens(link) ? '' : `assembly instance ${link[direction].instance}`,
  times: ({ commandRpi, feedbackRpi, timeoutMultiplier }) => ({
    commandMs: commandRpi / 1000,
    feedbackMs: feedbackRpi / 1000,
    quickestMs: Math.min(commandRpi, feedbackRpi) / 1000,
    lossMs: (feedbackRpi / 1000) * timeoutMultiplier,
  }),
  withUpdate: (_link, us) => ({ commandRpi: us, feedbackRpi: us }),
  timing: ({ commandRpi, feedbackRpi, timeoutMultiplier }) => ({
    commandRpi,
    feedbackRpi,
    timeoutMultiplier,
  }),
  budget: ethernetIpStreams,
  create: ({ id, command, feedback, update }) => ({
    id,
    protocol: 'ethernet-ip',
    connection: 'exclusive-owner',
    commandRpi: update,
    feedbackRpi: update,
    timeoutMultiplier: 4,
    toController: 'point-to-point',
    trigger: 'cyclic',
    commandFormat: 'run-idle',
    feedbackFormat: 'modeless',
    configuration: { instance: 1, data: '' },
    onLoss: 'drop',
    ...nothingSaid,
    command,
    feedback,
  }),
  renewed: (link, newId) => ({ ...link, id: newId() }),
  pointFor: (link, direction, { points }) =>
    points.find((p) => p.use === useOf(link, direction) && p.number === link[direction].instance),
  choices: (link, direction, description) => pointsFor(description, useOf(link, direction)),
  pointsOf: (link) => {
    const point = (direction: Direction): ConnectionPoint => ({
      ...emptyPoint,
      number: link[direction].instance,
      use: useOf(link, direction),
      size: link[direction].size,
    });
    const { instance, data } = link.configuration;
    return [
      point('command'),
      point('feedback'),
      { ...emptyPoint, number: instance, use: 'configuration', size: data.length / 2 },
    ];
  },
  offerOf: ({ commandFormat, feedbackFormat }) => ({
    protocol: 'ethernet-ip',
    cyclic: true,
    commandFormat,
    feedbackFormat,
  }),
  reading: (link, description) => {
    const { data } = link.configuration;
    if (onlyListens(link) && data === '') return link;
    const silent = { ...link, configuration: { ...link.configuration, data: '' } };
    if (onlyListens(link)) return silent;
    const empty = { ...link.command, size: 0, fields: [], groups: [] };
    for (const connection of ['input-only', 'listen-only'] as const) {
      const [point] = link.connection.startsWith('polled') ? [] : pointsFor(description, connection);
      if (point) return { ...silent, connection, command: { ...empty, instance: point.number } };
    }
    // Reading the data of an assembly is a request that every device may refuse, and none acts on.
    const feedbackRpi = Math.max(link.feedbackRpi, unhurried);
    return { ...silent, connection: 'polled-unconnected', feedbackRpi, command: empty };
  },
  sends: (link) => {
    const { connection, command, configuration, commandRpi, commandFormat } = link;
    const data = configuration.data.length / 2;
    const header = commandFormat === 'run-idle' ? ' with run' : '';
    return [
      connection.startsWith('polled')
        ? `assembly ${command.instance} is written: ${command.size} bytes of zeros every ${commandRpi / 1000} ms`
        : `an ${ethernetIp.connections[connection].title} connection: ${command.size} bytes of zeros${header} ` +
          `every ${commandRpi / 1000} ms to assembly ${command.instance}`,
      ...(data > 0 ? [`${data} bytes of configuration to assembly ${configuration.instance}`] : []),
    ].join('; ');
  },
  configuration: ({ configuration: { data } }) =>
    Uint8Array.from(data.match(/../g) ?? [], (pair) => parseInt(pair, 16)),
  rules: [connectionAgainstOffer, instanceAgainstDescription],
  causes: ethernetIpCauses,
  faults: ({ cyclic }) =>
    [...commonFaults, ...(cyclic ? packetFaults : []), 'duplicate-address' as const, 'stolen' as const].map(
      (kind) => faultOf(kind),
    ),
  parameterPlaces: ['attribute', 'index', 'port'],
  explain: explainFrame,
  scan: { answers: true, setsAddress: true },
};

/** Requests that only look are not made more often, µs. */
const unhurried = 100_000;

const emptyPoint: Omit<ConnectionPoint, 'number' | 'use' | 'size'> = {
  title: '',
  order: null,
  groups: [],
  fields: null,
  registers: null,
};
