import { Cell, Edit, Fault, hexPairs, SeenLight } from '@fadenkreuz/core';
import { SideValue } from '@fadenkreuz/core/devices';
import ipaddr from 'ipaddr.js';
import { z } from 'zod';
import { afterArmChoices } from '../bench/report.js';
import type { AssigningState } from '../addresses/addressServer.js';
import type { ScanState } from '../scan/scan.js';

export type { AfterArm, LinkReport as LinkStatus, TraceLine } from '../bench/report.js';
export type { AssigningState, Heard } from '../addresses/addressServer.js';
export type { ScanState } from '../scan/scan.js';
export type { ImageChange, ImageNews } from '../bench/imageLog.js';
export type { ParameterNews, SeriesState, Watched } from '../parameters/parameterDesk.js';
export type { ExchangeEnded, ExchangeStatus, ExchangeStory, Sample } from '../controller/exchangeDesk.js';
export type { ManualMove, ManualStatus } from '../controller/manualDesk.js';
export type { CutLine, CutSeries } from '../parameters/writeJournal.js';
export type { SeriesLine } from '../parameters/series.js';
export type { BenchStatus } from './benchStatus.js';
export { imagesOf, newsFor, withNews } from './live.js';
export type { LiveNews } from './live.js';

/** What the agent takes and tells: the one contract between it and the web server. */

export const StartBench = z.strictObject({ cell: Cell, version: z.number().int().nonnegative() });
export type StartBench = z.infer<typeof StartBench>;

/** An edit that makes this version of the cell that runs. */
export const EditBench = z.strictObject({
  cell: z.string().max(40),
  version: z.number().int().positive(),
  edit: Edit,
});
export type EditBench = z.infer<typeof EditBench>;

/** Longest time that one arming lasts, s. */
export const longestArm = 600;
/** Who has armed must be heard at least this often, ms: by a request that needs it, or by one that says so alone. */
export const heardLimitMs = 2000;
/** Names the browser window or the program that armed; when it goes or falls silent, so does the permission. */
const holder = z.string().min(1).max(80);
export const Arm = z.strictObject({ seconds: z.number().int().min(1).max(longestArm), holder });
/** The holder is still there. */
export const Here = z.strictObject({ holder });
export type Arm = z.infer<typeof Arm>;

const device = z.string().max(40);

export const Write = z.strictObject({
  device,
  /** Id of a signal: of a field, or of one element of a repeated field. */
  field: z.string().max(80),
  value: z.string().max(4000),
  /** The value stands only while writing is allowed; then it goes back to 0. */
  hold: z.boolean().default(false),
  holder,
});
export type Write = z.infer<typeof Write>;

/** A command for a moment, turned over, one more, or behind a 0: held as long as the wire needs. */
export const Command = z.strictObject({
  device,
  order: z.strictObject({
    title: z.string().max(80).default(''),
    field: z.string().max(80),
    bit: z.number().int().min(0).max(63).nullable(),
    how: z.enum(['set', 'pulse', 'renew', 'toggle', 'increment']),
    value: z.union([z.boolean(), z.number(), z.string().max(400)]),
  }),
  holder,
});
export type Command = z.infer<typeof Command>;

const exchange = z.string().max(40);
export const RunExchange = z.strictObject({
  exchange,
  times: z.number().int().min(1).max(100_000).default(1),
  /** Values of its variables in place of their own. */
  given: z.record(z.string().max(40), z.union([z.boolean(), z.number(), z.string().max(400)])).default({}),
  /** It waits before each step for a person. */
  byStep: z.boolean().default(false),
  holder,
});
export type RunExchange = z.infer<typeof RunExchange>;
export const ReleaseExchange = z.strictObject({ exchange, holder });
export const ExchangeQuery = z.strictObject({ exchange });

/** Speeds and positions in the units of the device's fields. */
const speed = z.number().min(-1e9).max(1e9);
export const MoveByHand = z.strictObject({
  device,
  holder,
  move: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('jog'), speed }),
    z.strictObject({ kind: z.literal('go to'), position: speed, speed }),
    z.strictObject({ kind: z.literal('step'), distance: speed, speed }),
    z.strictObject({ kind: z.literal('home'), speed }),
  ]),
});
export type MoveByHand = z.infer<typeof MoveByHand>;
/** Whoever moves it still does; let go needs nobody. */
export const HoldMove = z.strictObject({ device, holder });

export const WriteBytes = z.strictObject({
  device,
  link: z.string().max(40),
  at: z.number().int().min(0).max(4095),
  bytes: z.array(z.number().int().min(0).max(255)).min(1).max(64),
  holder,
});
export type WriteBytes = z.infer<typeof WriteBytes>;

export const SetRun = z.strictObject({ run: z.boolean(), holder });

export const AfterArmChoice = z.strictObject({
  link: z.string().max(40),
  does: z.enum(afterArmChoices),
});
export type AfterArmChoice = z.infer<typeof AfterArmChoice>;
export type SetRun = z.infer<typeof SetRun>;

export const InjectFault = z.strictObject({ device, fault: Fault });
/** What a simulated device shows on its own side; null: what it shows by itself. */
export const SetSide = z.strictObject({ device, field: z.string().max(80), value: SideValue.nullable() });
/** What is done to a simulated device, in place of the machine around it; null: what the machine does. */
export const SetMet = z.strictObject({
  device,
  quantity: z.string().max(80),
  value: z.number().min(-1e9).max(1e9).nullable(),
});
/** What somebody sees who stands before a real device: its lights, which are not on the wire. */
export const SetSeen = z.strictObject({ device, lights: z.array(SeenLight).max(16) });
/** Takes a fault away, by the key that the report gives it. */
export const ClearFault = z.strictObject({ device, key: z.string().max(80) });
export const TraceQuery = z.strictObject({ since: z.coerce.number().int().nonnegative().default(0) });
/** Follows the images of links, packet by packet. */
export const FollowImages = z.strictObject({
  links: z.array(z.string().max(40)).max(200),
  since: z.number().int().nonnegative(),
});
export const Gone = z.strictObject({ holder });

export const statusPerSecond = 10;

const parameter = z.string().max(40);
/** At most so many parameters in one series. */
const mostOfSeries = 20_000;
/** Reads parameters; of a device without a list all that can be read. */
export const ReadParameters = z.strictObject({
  devices: z
    .array(z.strictObject({ device, parameters: z.array(parameter).max(mostOfSeries).optional() }))
    .min(1)
    .max(500),
});
/** Writes values to parameters, in the order of the steps (core: writePlan). */
export const WriteParameters = z.strictObject({
  devices: z
    .array(
      z.strictObject({
        device,
        steps: z
          .array(
            z.strictObject({
              parameter,
              bytes: z.string().min(2).max(750).regex(hexPairs, 'is no row of hex pairs'),
              why: z.enum(['value', 'key', 'lock']),
            }),
          )
          .min(1)
          .max(mostOfSeries),
      }),
    )
    .min(1)
    .max(500),
  holder,
});
export type WriteParameters = z.infer<typeof WriteParameters>;
/** A series that was cut off, of which somebody has taken note. */
export const ForgetCut = z.strictObject({ series: z.uuid() });
export const CancelSeries = z.strictObject({ series: z.number().int().positive() });
export const SeriesQuery = z.strictObject({ series: z.coerce.number().int().positive() });
export const IdentityQuery = z.strictObject({ device });
/** The messages of the last request for a parameter. */
export const FramesQuery = z.strictObject({ device, parameter });
export const ParametersQuery = z.strictObject({ since: z.coerce.number().int().nonnegative().default(0) });
/** Parameters that are read again and again, in place of those before. */
export const WatchParameters = z.strictObject({
  watched: z
    .array(z.strictObject({ device, parameter, everyMs: z.number().int().min(100).max(3_600_000) }))
    .max(64),
});

const address = z.string().refine((a) => ipaddr.IPv4.isValidFourPartDecimal(a), 'is no IPv4 address');

export const StartScan = z.strictObject({
  /** 192.168.40.0/24, 192.168.40.10-192.168.40.60, or one address, as the plan writes them. */
  ranges: z.array(z.string().max(60)).min(1).max(40),
  /** Other ports than the standard's where devices may listen. */
  ports: z.array(z.number().int().min(1).max(0xffff)).max(8),
  /** An address of the plan: its first number is lost in loopback. */
  planned: address,
});
export type StartScan = z.infer<typeof StartScan>;

const settings = { address, mask: address, gateway: address.nullable() };
/** Gives the device that is reached at `at` an address for good. */
export const SetAddress = z.strictObject({ at: address, ...settings, holder });
export type SetAddress = z.infer<typeof SetAddress>;
export const StopAsking = z.strictObject({ at: address, holder });

/** Gives addresses to those who ask, to the chosen ones only, for some minutes; none chosen: it only listens. */
export const Assign = z.strictObject({
  minutes: z.number().min(0.1).max(60),
  assignments: z
    .array(z.strictObject({ mac: z.string().regex(/^([0-9A-F]{2}-){5}[0-9A-F]{2}$/), ...settings }))
    .max(200),
  /** The controller's address in the plan. */
  server: address,
});
export type Assign = z.infer<typeof Assign>;

/** An IPv4 address that this computer has. */
export interface Adapter {
  name: string;
  address: string;
  /** With its prefix. */
  subnet: string;
  mac: string;
}

/** What is known of the wire: the last scan, whether addresses are given, this computer's own adapters. */
export interface WireStatus {
  scan: ScanState | null;
  assigning: AssigningState | null;
  adapters: Adapter[];
  /** Subnets outside loopback that the agent may reach. */
  reach: string[];
}
