import type { BenchFacts } from '../facts/bench.js';
import type { Texts } from '../wording.js';

/** The bench, its links and its parts. */
export const benchTexts: Texts<BenchFacts> = {
  'link.refused': (f) => ({
    says: `${f.device} refused the connection: general status ${f.general}, extended status ${f.extended}. ${f.meaning}`,
    cure: f.cure,
  }),
  'link.sizeRefused': (f) => ({
    says: `${f.device} refused the connection over the size of the ${f.side} image: planned ${f.planned} bytes, the device has ${f.actual}. ${f.reading}`,
    cure: `Enter ${f.actual} bytes.`,
  }),
  'link.silent': (f) => ({
    says: `${f.device} sent nothing for ${f.waitedMs} ms; the connection timed out.`,
    cure: 'Look at its power and its cable; the link is tried again by itself.',
  }),
  'link.unreachable': (f) => ({
    says: `${f.device} cannot be reached at ${f.address}: ${f.reason}.`,
    cure: f.connected
      ? 'It takes connections: see what else asks it and how often, then look at its cable; the link is tried again by itself.'
      : 'Look at power, cable and address; the link is tried again by itself.',
  }),
  'link.requestRefused': (f) => ({
    says: `${f.device} refused a request for its assembly: general status ${f.general}. ${f.meaning}`,
    cure: f.cure,
  }),
  'parameter.refused': (f) => ({
    says: `${f.device} refused a request for ${f.place}. ${f.says}`,
    cure: f.cure,
  }),
  'parameter.noList': (f) => ({
    says: `${f.device} cannot be asked over its protocol which parameters it has.`,
    cure: 'Take them from its data sheet, from a table of its manual, or one by one.',
  }),
  'parameter.noWay': (f) => ({
    says: `${f.device} cannot be asked for ${f.place} over this protocol.`,
    cure: 'Enter the place as the protocol of its link has it, or ask over another link.',
  }),
  'parameter.size': (f) => ({
    says: `${f.parameter} came with ${f.bytes} bytes; it is planned with ${f.size}.`,
    cure: 'Compare its type and its place with the manual of this revision.',
  }),
  'parameter.noAnswer': (f) => ({
    says: `${f.device} did not answer a request for ${f.place}: ${f.reason}.`,
    cure: 'Look at its power and its cable, then ask again.',
  }),
  'parameter.unknownSince': (f) => ({
    says: `${f.device} did not answer when ${f.place} was written: ${f.reason}. Whether it has taken the value is not known.`,
    cure: 'Read it back once the device answers again.',
  }),
  'parameter.noPlace': (f) => ({
    says: `Where ${f.parameter} of ${f.device} stands is not known.`,
    cure: 'Enter its place as the manual has it.',
  }),
  'parameter.notRead': (f) => ({
    says: `${f.parameter} of ${f.device} can only be written, so what stands there is not known.`,
    cure: 'See at the device what it does.',
  }),
  'link.blockRefused': (f) => ({
    says: `${f.device} refused the block ${f.block}. ${f.says}`,
    cure: f.cure,
  }),
  'link.notSpoken': (f) => ({
    says: `${f.device} is linked over ${f.protocol}, which the bench does not speak yet.`,
    cure: 'Its layout, slots and addresses are worked out all the same; try it on the machine.',
  }),
  'link.needsArm': (f) => ({
    says: `${f.device} is a real device, and its link cannot be opened without writing: ${f.sends}.`,
    cure: 'Arm when that may happen.',
  }),
  'link.otherDevice': (f) => ({
    says: `At the address of ${f.device} stands another device than planned: planned ${f.planned}, found ${f.found}.`,
    cure: 'Find out which device it is, then correct the plan or the address.',
  }),
  'link.outsideReach': (f) => ({
    says: `${f.device} has no stand-in, and the agent was not allowed to reach ${f.address}.`,
    cure: `Choose a stand-in for it, or start with ./start --reach ${f.subnet} to talk to the real device.`,
  }),
  'link.noAdapter': (f) => ({
    says: `This computer has no address in the subnet of ${f.device} at ${f.address}.`,
    cure: 'Give one of its network adapters a free address in that subnet.',
  }),
  'reach.noSubnet': (f) => ({
    says: `"${f.text}" is no IPv4 subnet.`,
    cure: 'Write it like 192.168.40.0/24.',
  }),
  'fault.notHere': (f) => ({
    says: `The fault ${f.fault} cannot be injected at ${f.device}.`,
    cure: 'Choose one from the list of its faults.',
  }),
  'fault.noStandIn': (f) => ({
    says: `${f.device} is no stand-in on this bench; faults can only be injected at stand-ins.`,
    cure: 'Start the bench; a device that is reached for real has no stand-in.',
  }),
  'standIn.none': (f) => ({
    says: `${f.device} has no stand-in: its protocol is not spoken on the bench yet.`,
    cure: 'Its layout can be worked on; on the bench it stays out.',
  }),
  'standIn.cannotBind': (f) => ({
    says: `The stand-in of ${f.device} cannot use ${f.address}, port ${f.port}: ${f.reason}.`,
    cure: 'End the program that holds this port (perhaps a second bench), then start again.',
  }),
  'bench.notRunning': () => ({ says: 'The bench does not run.', cure: 'Start it first.' }),
  'bench.alreadyRuns': (f) => ({
    says: `The bench runs already, with the cell ${f.cell}.`,
    cure: 'Stop it first; it runs one cell at a time.',
  }),
  'capture.nothing': () => ({
    says: 'No traffic has been recorded.',
    cure: 'Start the bench and choose Record traffic in its trace.',
  }),
  'bench.armedByOther': () => ({
    says: 'Somebody else has armed the bench.',
    cure: 'Ask them to disarm, or disarm yourself; then arm again.',
  }),
  'bench.notArmed': () => ({
    says: 'Nothing was written: the bench is not armed.',
    cure: 'Arm it; that allows writing for a limited time.',
  }),
  'bench.outsideLoopback': (f) => ({
    says: `${f.address} lies outside loopback, where the agent may not send.`,
    cure: 'On the bench every device stands in 127.0.0.0/8; start with --reach SUBNET to talk to real devices.',
  }),
  'bench.noOpenLink': (f) => ({
    says: `Nothing was written: the link of ${f.device} is not open.`,
    cure: 'Look at the reason beside its connection on the bench.',
  }),
  'agent.away': (f) => ({
    says: `The agent, which runs the bench, does not answer (${f.reason}).`,
    cure: 'It is started again by itself; the design is untouched.',
  }),
  'server.busy': () => ({
    says: 'Too many files come at once: there is no room for this one.',
    cure: 'Send it again in a moment.',
  }),
  'database.full': (f) => ({
    says: `The disk that the database is on is full (${f.reason}): nothing can be stored now.`,
    cure: 'Make room on it. What was not stored stays in the browser and is sent again by itself.',
  }),
  'database.busy': () => ({
    says: 'Too many requests at once: the database has no time for this one.',
    cure: 'It is sent again by itself; nothing that was confirmed is lost.',
  }),
  'database.away': (f) => ({
    says: `The database does not answer (${f.reason}).`,
    cure: 'It is started again by itself; nothing that was confirmed is lost. Try again in a moment.',
  }),
};
