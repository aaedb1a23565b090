import { nothingSaid } from '../link.js';
import type { ConnectionPoint } from '../../devices/description.js';
import { commonFaults, faultOf } from '../../devices/fault.js';
import type { Protocol } from '../protocol.js';
import { profinetStreams } from './budget.js';
import { ProfinetLink, ProfinetOffer } from './link.js';
import { stationNameDiffers } from './rules.js';

/** PROFINET (IEC 61158-5-10, -6-10): planned, checked and reckoned with; not on the wire yet. */
export const profinet: Protocol<ProfinetLink, ProfinetOffer> = {
  id: 'profinet',
  title: 'PROFINET',
  link: ProfinetLink,
  offer: ProfinetOffer,
  connections: { 'cyclic-rt': { title: 'cyclic real time', cyclic: true } },
  placeOf: ({ slots }) =>
    slots.length === 0 ? '' : `slots ${[...new Set(slots.map((s) => s.slot))].join(', ')}`,
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
  budget: profinetStreams,
  create: ({ id, command, feedback, update }) => ({
    id,
    protocol: 'profinet',
    connection: 'cyclic-rt',
    commandRpi: update,
    feedbackRpi: update,
    timeoutMultiplier: 4,
    slots: [],
    onLoss: 'drop',
    ...nothingSaid,
    command,
    feedback,
  }),
  renewed: (link, newId) => ({ ...link, id: newId() }),
  pointFor: (_link, direction, { points }) => points.find((p) => p.use === direction),
  pointsOf: (link) =>
    [link.command, link.feedback].map(({ direction, size }): ConnectionPoint => ({
      number: 1,
      use: direction,
      title: '',
      size,
      order: 'big',
      groups: [],
      fields: null,
      registers: null,
    })),
  offerOf: () => ({ protocol: 'profinet', accessPoint: '' }),
  controlWord: 'profidrive',
  // No driver speaks it yet.
  reading: () => undefined,
  sends: ({ command }) => `${command.size} bytes of outputs`,
  rules: [stationNameDiffers],
  causes: [],
  faults: () => commonFaults.map((kind) => faultOf(kind)),
  parameterPlaces: ['record', 'pnu', 'index', 'port'],
  scan: { answers: false, setsAddress: false },
};
