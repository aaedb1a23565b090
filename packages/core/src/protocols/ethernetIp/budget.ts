import type { Streams } from '../protocol.js';
import { wrappedSize } from './ioPacket.js';
import { isPolled, type EthernetIpLink } from './link.js';

/** Item count, sequenced address item and head of the data item of a class 1 packet (CIP Vol. 2, 2-6). */
const packetHead = 2 + 12 + 4;
/**
 * Encapsulation header, interface handle and timeout, item count, null address item, head of the data item (CIP Vol. 2,
 * 2-3, 2-4.7).
 */
const unconnectedHead = 24 + 6 + 2 + 4 + 4;
/** A connection id in the address item, and a sequence count before the message (CIP Vol. 2, 2-4.8). */
const connectedMore = 4 + 2;
/** Service and path length; service, status and size of what is added to it (CIP Vol. 1, 2-4). */
const questionHead = 2;
const answerHead = 4;

/** Class 1 packets of both directions, or questions and answers at the poll time. */
export function ethernetIpStreams(link: EthernetIpLink): Streams {
  if (isPolled(link)) return { ...polledStreams(link), transport: 'tcp' };
  const owner = link.connection === 'exclusive-owner';
  // Who only listens sends an empty packet, so that the device knows that it is there.
  const sent = owner ? wrappedSize(link.commandFormat, link.command.size) : wrappedSize('heartbeat', 0);
  const back = wrappedSize(link.feedbackFormat, link.feedback.size);
  return {
    command: [{ payload: packetHead + sent, perSecond: 1e6 / link.commandRpi }],
    feedback: [{ payload: packetHead + back, perSecond: 1e6 / link.feedbackRpi }],
    transport: 'udp',
  };
}

/** Get and Set_Attribute_Single of assemblies. */
function polledStreams(link: EthernetIpLink): Pick<Streams, 'command' | 'feedback'> {
  const head = unconnectedHead + (link.connection === 'polled-connected' ? connectedMore : 0);
  // Class, instance, attribute: two bytes each, four where the number does not fit one (CIP Vol. 1, C-1.4.2).
  const path = (instance: number) => 4 + (instance > 0xff ? 4 : 2);
  const writes = link.command.size > 0 ? [link.command] : [];
  const exchange = [
    ...writes.map(({ instance, size }) => ({
      question: head + questionHead + path(instance) + size,
      answer: head + answerHead,
      perSecond: 1e6 / link.commandRpi,
    })),
    {
      question: head + questionHead + path(link.feedback.instance),
      answer: head + answerHead + link.feedback.size,
      perSecond: 1e6 / link.feedbackRpi,
    },
  ];
  return {
    command: exchange.map(({ question, perSecond }) => ({ payload: question, perSecond })),
    feedback: exchange.map(({ answer, perSecond }) => ({ payload: answer, perSecond })),
  };
}
