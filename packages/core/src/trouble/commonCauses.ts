import {
  connectsOnly,
  light,
  lost,
  openFor,
  powered,
  says,
  seconds,
  share,
  type CauseRule,
} from '../protocols/cause.js';
import type { Symptoms } from '../protocols/symptoms.js';

/** A restart is what just happened for so long, ms; after that it is history, which is worth knowing and no more. */
const justNowMs = 5000;

/** A link that asks has left turns out, because the questions before were not answered. */
const leavesOut = (s: Symptoms) => openFor(s) && s.polled && s.lately.lost > 0.02;
/** Lateness of this computer that any network would be blamed for, ms. */
const lateAtAllMs = 25;
/** A computer that is this late comes to the next question before it has read the answer to the last. */
const asksLate = (s: Symptoms) => s.ownLatenessMs > Math.max(lateAtAllMs, s.expectedMs! / 4);

/** Packets that overtook others are no loss: they came, only late. */
const trulyLost = ({ lately }: Symptoms) => Math.max(0, lately.lost - lately.late);
/** What happens to one packet in ten; undefined where that takes hardly longer than agreed. */
const stretched = ({ lately: { interval }, expectedMs }: Symptoms) =>
  interval !== null && expectedMs && interval - expectedMs >= 6 && interval / expectedMs > 1.35
    ? { interval, times: interval / expectedMs }
    : undefined;
/** Only what goes beyond the lateness of this computer itself is the network's. */
const heldUp = (s: Symptoms) => {
  const found = stretched(s);
  // A question that leaves late has its answer read late, too.
  const own = s.ownLatenessMs * (s.polled ? 2 : 1);
  return found && found.interval - s.expectedMs! >= 6 + 1.5 * own ? found : undefined;
};

/** Whether the packets of an open link come later than agreed, by more than this computer itself is late. */
export const isHeldUp = (s: Symptoms): boolean => openFor(s) && heldUp(s) !== undefined;

/** Links that are held up together have this computer in common, more often than ways through the network. */
const togetherAtLeast = 3;
const heldTogether = ({ together: { open, heldUp } }: Symptoms) =>
  heldUp >= togetherAtLeast && heldUp > open / 2;

/** Time-outs up to this are shorter than a pause that computers and switches make now and then, ms. */
const shortTimeoutMs = 50;

/** Causes that hold for the links of every protocol. */
export const commonCauses: CauseRule[] = [
  {
    title: 'The device has no power',
    next: 'Measure its supply; look at fuse and plug. It comes back by itself and is opened again.',
    seen: (s) => {
      const module = light(s, 'module');
      if (!lost(s) || connectsOnly(s)) return [];
      if (!module) return [[2, 'it does not answer at all']];
      return module.colour === 'off' ? [[10, says(module)]] : [];
    },
  },
  {
    title: 'The device has lost its power for a moment, or was started anew',
    next: 'Look at its supply and plug, and at who may have reset it. Its outputs and settings may be back at their start values.',
    seen: (s) =>
      s.restartedMs !== null && s.restartedMs < 60_000 && powered(s)
        ? [
            [
              // What has passed explains little of what is seen now.
              s.restartedMs < justNowMs ? 5 : 0.5,
              `its module light was off until ${seconds(s.restartedMs)} ago`,
            ],
          ]
        : [],
  },
  {
    title: 'The cable is out, or a switch on the way is off',
    next: 'Look at the link lights at both ends of the cable; swap the cable or the port of the switch.',
    seen: (s) => {
      if (!lost(s) || !powered(s) || connectsOnly(s)) return [];
      const link = light(s, 'link');
      if (link && link.colour !== 'off') return [];
      return [
        ...(link ? ([[8, says(link)]] as [number, string][]) : []),
        [2, s.ageMs === null ? 'nothing was heard of it' : `nothing was heard of it for ${seconds(s.ageMs)}`],
      ];
    },
  },
  {
    title: 'The time-out is shorter than a pause on the way',
    next: 'Give the link a longer update time or a greater time-out; 4 × 2 ms bears no pause of a computer or a switch.',
    seen: (s) => {
      const { timeoutMs, ownLatenessMs } = s;
      const dark = light(s, 'module')?.colour === 'off' || light(s, 'link')?.colour === 'off';
      if (!lost(s) || dark || timeoutMs === null || s.lately.timeouts === 0) return [];
      if (timeoutMs > Math.max(shortTimeoutMs, ownLatenessMs)) return [];
      return [
        [
          6 + Math.min(s.lately.timeouts, 3),
          `given up after ${seconds(timeoutMs)}; this computer itself is ${seconds(ownLatenessMs)} late one time in a hundred`,
        ],
      ];
    },
  },
  {
    title: 'The device has another address',
    next: 'Scan the wire in the line-up: it may still have its factory address, or ask for one.',
    seen: (s) => {
      const link = light(s, 'link');
      const alive = lost(s) && powered(s) && link !== undefined && link.colour !== 'off';
      // With another address it is as healthy as can be, and nobody listens at the planned one. Devices of other
      // protocols than EtherNet/IP have no network light that would tell whether they have one.
      const network = light(s, 'network');
      const quiet =
        s.reason?.code === 'link.unreachable' && !connectsOnly(s) && (!network || network.colour === 'green');
      return alive && quiet ? [[9, `${says(link)}; nothing listens at the planned address`]] : [];
    },
  },
  {
    title: 'An image has another size than planned',
    next: 'Look the sizes up in the manual, in bytes; something may have been changed in the device’s own setting.',
    seen: (s) => (s.reason?.code === 'link.sizeRefused' && s.state !== 'open' ? [[10, s.reason.says]] : []),
  },
  {
    title: 'The device answers slowly',
    next: 'See what else asks it, and how often; give requests a longer time limit.',
    seen: (s) => {
      const slow = s.probe?.answerMs ?? 0;
      return [
        ...(lost(s) && connectsOnly(s) ? ([[8, s.reason!.says]] as [number, string][]) : []),
        ...(slow > 250 ? ([[6, `its last answer took ${seconds(slow)}`]] as [number, string][]) : []),
      ];
    },
  },
  {
    title: 'Packets get lost on the way',
    next: 'Look at connectors, shield and switch counters; a longer update time, in steps of 10 to 20 ms, loads the network less.',
    seen: (s) => {
      const part = trulyLost(s);
      return openFor(s) && !s.polled && part > 0.02
        ? [[4 + part * 8, `${share(part)} of the packets are missing`]]
        : [];
    },
  },
  {
    title: 'It is asked more often than it answers',
    next: 'Look at what else asks it, and for a wire that loses packets: TCP sends them again, but 200 ms later and more. A longer poll time helps.',
    seen: (s) => {
      const { lost: leftOut } = s.lately;
      if (!leavesOut(s) || asksLate(s)) return [];
      const weight = 3 + Math.min(leftOut, 0.3) * 8;
      return [
        [weight, `${share(leftOut)} of its turns were left out, because the one before was not answered`],
      ];
    },
  },
  {
    title: 'Packets overtake each other',
    next: 'Look for two ways between device and controller: a loop, a wireless link, or a switch that balances.',
    seen: (s) => {
      const { late } = s.lately;
      return openFor(s) && late > 0.02 && s.lately.lost <= late * 1.5
        ? [[5 + late * 8, `${share(late)} of the packets came after a later one`]]
        : [];
    },
  },
  {
    title: 'Packets come twice',
    next: 'Look for a loop in the network, or a mirrored port that sends back.',
    seen: (s) =>
      openFor(s) && s.lately.doubled > 0.02
        ? [[7 + s.lately.doubled, `${share(s.lately.doubled)} of the packets came a second time`]]
        : [],
  },
  {
    title: 'Packets are held up on the way',
    next: 'Look at the load of switches and controller: other traffic goes first. A longer update time helps.',
    seen: (s) => {
      const { late, overtaken } = s.lately;
      // Who only changes places with the next one comes right behind it.
      if (openFor(s) && overtaken > 0.02)
        return [[6 + late * 8, `${share(overtaken)} of the packets came well after a later one`]];
      const held = heldUp(s);
      if (!openFor(s) || !held) return [];
      // A missing packet looks like a long interval too: loss explains it then.
      const weight =
        trulyLost(s) > 0.01 || s.lately.late > 0.01 || heldTogether(s) ? 1 : 3 + Math.min(held.times, 4);
      return [
        [
          weight,
          `one interval in ten takes ${seconds(held.interval)} or more, ${seconds(s.expectedMs!)} was agreed`,
        ],
      ];
    },
  },
  {
    title: 'This computer is too loaded to keep the time',
    next: 'End other programs on it; what is measured here says little of the network until then.',
    seen: (s) => {
      const { open, heldUp: held } = s.together;
      const late =
        openFor(s) &&
        (s.ownLatenessMs > Math.max(lateAtAllMs, s.expectedMs!) ||
          (s.polled && asksLate(s) && (leavesOut(s) || stretched(s) !== undefined)));
      return [
        ...(isHeldUp(s) && heldTogether(s)
          ? ([[8, `${held} of ${open} open links are held up at once: what they share is this computer`]] as [
              number,
              string,
            ][])
          : []),
        ...(late
          ? ([[1, `its own schedule is ${seconds(s.ownLatenessMs)} late, one time in a hundred`]] as [
              number,
              string,
            ][])
          : []),
      ];
    },
  },
  {
    title: 'The device sends, but its program has stopped',
    next: 'The feedback is frozen: switch the device off and on, and look at its run display.',
    seen: (s) => {
      // Who is only asked does not say whether its values are new, and a pump that stands sends the same ones all day:
      // then the age of the last change, which the view shows, must be judged by a person.
      if (s.state !== 'open' || s.ageMs === null || s.freshMs === null) return [];
      const stale = s.freshMs - s.ageMs > Math.max(1000, 10 * (s.expectedMs ?? 100));
      return stale ? [[9, `packets arrive, but none has brought new data for ${seconds(s.freshMs)}`]] : [];
    },
  },
  {
    title: 'A port has no load power',
    next: 'Look at the load supply of the port and at the setting that switches it; the link itself stays green.',
    seen: (s) =>
      s.indicators
        .filter((i) => powered(s) && i.name.startsWith('port ') && i.colour === 'off')
        .map((i) => [8, says(i)]),
  },
  {
    title: 'A port is in another mode than its device needs',
    next: 'Set the mode of the port to what its device needs; the link itself stays green.',
    seen: (s) =>
      s.indicators.filter((i) => i.name.startsWith('port ') && i.colour === 'amber').map((i) => [8, says(i)]),
  },
  {
    title: 'The device itself has a fault',
    next: 'Read its fault code, end the cause, then give the reset that it needs.',
    seen: (s) => {
      const module = light(s, 'module');
      const status = s.probe?.identityStatus ?? 0;
      const faulty = (status & 0x0f00) !== 0;
      return [
        ...(module?.colour === 'red' ? ([[7, says(module)]] as [number, string][]) : []),
        ...(faulty ? ([[3, 'its status word reports a fault']] as [number, string][]) : []),
      ];
    },
  },
];
