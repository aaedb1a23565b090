import { anotherDevice, deviceBusy, light, powered, says, type CauseRule } from '../cause.js';
import type { Symptoms } from '../symptoms.js';

/** General status 2: resource unavailable (CIP Vol. 1, B-1). */
const noResources = 2;

/** A Forward_Open was refused with one of these, extended status before general. */
const refusedWith = (s: Symptoms, ...codes: string[]) => {
  const facts = s.reason?.facts as { extended?: string; general?: string } | undefined;
  return s.state !== 'open' && codes.includes(facts?.extended ?? facts?.general ?? '');
};

/** Causes that the answers and the network light of an EtherNet/IP device speak for. */
export const ethernetIpCauses: CauseRule[] = [
  {
    title: 'The device has no address',
    next: 'It asks for one: assign its address in the line-up, and let it keep it.',
    seen: (s) => {
      const network = light(s, 'network');
      return powered(s) && network?.colour === 'off' ? [[10, says(network)]] : [];
    },
  },
  {
    title: 'Two devices have this address',
    next: 'Ask for identities at this address: two answers with different serial numbers. Give one of them a free address.',
    seen: (s) => {
      const network = light(s, 'network');
      const red = network?.colour === 'red' && network.pattern === 'steady';
      return [
        ...(red ? ([[12, says(network)]] as [number, string][]) : []),
        ...(red && s.lately.timeouts > 1
          ? ([[2, `${s.lately.timeouts} losses in a short time`]] as [number, string][])
          : []),
      ];
    },
  },
  {
    ...anotherDevice,
    seen: (s) => (refusedWith(s, '16#0114', '16#0115') ? [[10, s.reason!.says]] : []),
  },
  {
    title: 'The device has another revision than planned',
    next: 'Compare its images with the plan; when they are the same, accept the revision.',
    seen: (s) => (refusedWith(s, '16#0116') ? [[10, s.reason!.says]] : []),
  },
  {
    title: 'Another controller owns the outputs',
    next: 'Find the other controller and stop it, or ask for an input-only connection. The device says that it is owned.',
    seen: (s) => (refusedWith(s, '16#0106') ? [[10, s.reason!.says]] : []),
  },
  {
    ...deviceBusy,
    seen: (s) => [
      ...(s.probe?.refusal === noResources
        ? ([[7, 'it refuses requests: no resources left']] as [number, string][])
        : []),
      ...(refusedWith(s, '16#02') ? ([[9, s.reason!.says]] as [number, string][]) : []),
    ],
  },
];
