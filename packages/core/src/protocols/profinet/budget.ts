import type { Streams } from '../protocol.js';
import type { ProfinetLink } from './link.js';

/**
 * Around the data of a PROFINET real time frame: VLAN tag, frame id, cycle counter, data and transfer status; the data
 * take at least 40 bytes (IEC 61158-6-10, from memory).
 */
const realTime = { around: 4 + 2 + 4, leastData: 40 } as const;

/**
 * One real time frame each way. Each submodule adds a byte of provider status to its own data, and one of consumer
 * status the other way.
 */
export function profinetStreams(link: ProfinetLink): Streams {
  const bytes = (data: number) => realTime.around + Math.max(realTime.leastData, data + link.slots.length);
  return {
    command: [{ payload: bytes(link.command.size), perSecond: 1e6 / link.commandRpi }],
    feedback: [{ payload: bytes(link.feedback.size), perSecond: 1e6 / link.feedbackRpi }],
    transport: 'ethernet',
  };
}
