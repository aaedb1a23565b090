import type { Behaviour } from '../behaviour.js';
import { bit, bytesLayout, int, uint } from '../bytesLayout.js';
import { nextSeed, swing } from '../disturbance.js';
import type { Indicator } from '../indicators.js';
import { clamp, lag } from '../motions.js';

/**
 * An IO-Link master with four ports on Modbus TCP: a pressure sensor, the brine valve, a level sensor, a proximity
 * switch. Each port has a mode and load power. Without power, or in the wrong mode, the link stays green while process
 * data are void, parameters answer errors, and what hangs on the port does not move.
 */
export interface HubState {
  ports: readonly Port[];
  /** bar, share, mm */
  pressure: number;
  valve: number;
  level: number;
  /** Last order for the valve. */
  wanted: number;
  request: { port: number; index: number; write: number };
  answer: { status: number; value: number };
  told: boolean;
  seed: number;
}

export interface Port {
  mode: number;
  /** Mode that its device needs. */
  needs: number;
  power: boolean;
  /** The fault that somebody has made: the settings say otherwise, the port does as the fault wants. */
  powerLost: boolean;
  wrongMode: boolean;
  /** ms since the device on it could begin to talk. */
  awake: number;
}

/** Port modes of this master. */
export const portModes = { off: 0, ioLink: 1, input: 2, output: 3 } as const;
const modeTexts: Readonly<Record<number, string>> = { 0: 'off', 1: 'IO-Link', 2: 'input', 3: 'output' };
/** An IO-Link device needs so long to wake up and start (common practice, no source). */
const wakeMs = 400;
/** Error words of parameter requests: port without power, wrong mode, no such index (IO-Link, ISDU error 16#8011). */
export const parameterErrors = {
  noPower: 0x1001,
  wrongMode: 0x1002,
  noIndex: 0x8011,
  readOnly: 0x8023,
} as const;

/** Registers 1000 to 1011: words of a port stand with their low byte first, as the makers of the hub left them. */
const answers = bytesLayout(
  24,
  {
    port_1_valid: bit(0),
    port_2_valid: bit(1),
    port_3_valid: bit(2),
    port_4_valid: bit(3),
    port_1_power: bit(8),
    port_2_power: bit(9),
    port_3_power: bit(10),
    port_4_power: bit(11),
    port_1_mode: uint(16, 'big'),
    port_2_mode: uint(32, 'big'),
    port_3_mode: uint(48, 'big'),
    port_4_mode: uint(64, 'big'),
    brine_pressure: int(80, 'little'),
    valve_position: uint(96, 'little'),
    brine_level: int(112, 'little'),
    crate_there: bit(128),
    parameter_status: uint(144, 'big'),
    parameter_value: int(160, 'big'),
  },
  'big',
);
/** Registers 2000 and 2001: order for the valve. */
const commands = bytesLayout(4, { valve_order: uint(0, 'little'), blow_through: bit(16) }, 'big');
/** Registers 4000 to 4007: port modes, load power, and the parameter request. */
const settings = bytesLayout(
  20,
  {
    mode_1: uint(0),
    mode_2: uint(16),
    mode_3: uint(32),
    mode_4: uint(48),
    power_1: bit(72),
    power_2: bit(73),
    power_3: bit(74),
    power_4: bit(75),
    request_port: uint(80),
    request_index: uint(96),
    request_value: int(112),
    request_write: bit(136),
    request_go: bit(137),
  },
  'big',
);

const working = ({ power, powerLost, mode, needs, wrongMode, awake }: Port) =>
  power && !powerLost && mode === needs && !wrongMode && awake >= wakeMs;

const startPort = (needs: number): Port => ({
  mode: needs,
  needs,
  power: true,
  powerLost: false,
  wrongMode: false,
  awake: 0,
});

/** What a device answers to a parameter request: IO-Link index 16 vendor, 18 product, 24 tag, 100 its own setting. */
function parameter(state: HubState, port: number, index: number): HubState['answer'] {
  const target = state.ports[port - 1];
  if (!target) return { status: parameterErrors.noIndex, value: 0 };
  if (!target.power || target.powerLost) return { status: parameterErrors.noPower, value: 0 };
  if (!working(target) || target.needs !== portModes.ioLink)
    return { status: parameterErrors.wrongMode, value: 0 };
  const known: Record<number, number> = { 16: 1014, 18: 300 + port, 24: port, 100: 250 * port };
  const value = known[index];
  return value === undefined ? { status: parameterErrors.noIndex, value: 0 } : { status: 0, value };
}

const portFault = (id: string, title: string, reset: string, part: (injected: boolean) => Partial<Port>) => {
  // Port 2: the one with the valve.
  const apply = (state: HubState, injected: boolean): HubState => ({
    ...state,
    ports: state.ports.map((p, i) => (i === 1 ? { ...p, ...part(injected) } : p)),
  });
  return {
    id,
    title,
    reset,
    inject: (state: HubState) => apply(state, true),
    clear: (state: HubState) => apply(state, false),
  };
};

export const ioLinkMaster: Behaviour<HubState> = {
  title: 'IO-Link master with four ports, Modbus TCP',
  identity: {
    vendor: 65_014,
    deviceType: 0x0c,
    productCode: 1204,
    majorRevision: 2,
    minorRevision: 1,
    productName: 'Tannhorn PH4 port hub',
  },
  offer: { protocol: 'modbus-tcp', watchdogMs: 5000 },
  assemblies: [
    {
      ...{ instance: 1, use: 'command', size: commands.size, fields: commands.fields },
      registers: { table: 'holding', start: 2000 },
    },
    {
      ...{ instance: 2, use: 'feedback', size: answers.size, fields: answers.fields },
      registers: { table: 'input', start: 1000 },
    },
    {
      ...{ instance: 3, use: 'configuration', size: settings.size, fields: settings.fields },
      registers: { table: 'holding', start: 4000 },
    },
  ],
  start: (seed) => ({
    ports: [portModes.ioLink, portModes.ioLink, portModes.ioLink, portModes.input].map(startPort),
    pressure: 0,
    valve: 0,
    level: 820,
    wanted: 0,
    request: { port: 0, index: 0, write: 0 },
    answer: { status: 0, value: 0 },
    told: false,
    seed: nextSeed(seed),
  }),

  configure(state, data) {
    if (data.length < settings.size) return state;
    const s = settings.read(data);
    const modes = [s.mode_1, s.mode_2, s.mode_3, s.mode_4];
    const power = [s.power_1, s.power_2, s.power_3, s.power_4];
    const ports = state.ports.map((port, i) => {
      const mode = Math.min(modes[i]!, portModes.output);
      const same = mode === port.mode && power[i] === port.power;
      return { ...port, mode, power: power[i]!, awake: same ? port.awake : 0 };
    });
    const next = { ...state, ports, told: s.request_go };
    if (!s.request_go || state.told) return next;
    const answer = s.request_write
      ? { status: parameterErrors.readOnly, value: 0 }
      : parameter(next, s.request_port, s.request_index);
    return { ...next, answer };
  },

  settings(state, into) {
    const [one, two, three, four] = state.ports as [Port, Port, Port, Port];
    const asked = settings.read(into);
    settings.write(
      {
        ...asked,
        mode_1: one.mode,
        mode_2: two.mode,
        mode_3: three.mode,
        mode_4: four.mode,
        power_1: one.power,
        power_2: two.power,
        power_3: three.power,
        power_4: four.power,
      },
      into,
    );
  },

  step(before, { elapsedMs, command, met }) {
    const seconds = elapsedMs / 1000;
    const seed = nextSeed(before.seed);
    const ports = before.ports.map((port) => ({
      ...port,
      awake:
        port.power && !port.powerLost && port.mode === port.needs && !port.wrongMode
          ? port.awake + elapsedMs
          : 0,
    }));
    const wanted = command ? clamp(commands.read(command).valve_order / 1000, 0, 1) : 0;
    // Without power or out of its mode the valve stays where it is.
    const valve = working(ports[1]!) ? lag(before.valve, wanted, seconds, 0.35) : before.valve;
    const pump = met('pump speed') ?? 0;
    const flow = pump * valve;
    return {
      ...before,
      ports,
      wanted,
      valve: Math.abs(valve - wanted) < 1e-3 ? wanted : valve,
      pressure: lag(before.pressure, 3.2 * pump - 1.9 * flow + swing(seed) * 0.01, seconds, 0.2),
      level: clamp(before.level + (flow > 0.05 ? -2 * flow : 0.4) * seconds, 120, 980),
      seed,
    };
  },

  feedback(state, into) {
    const ok = state.ports.map(working);
    const powered = state.ports.map((p) => p.power && !p.powerLost);
    const modes = state.ports.map((p) => (p.wrongMode ? portModes.input : p.mode));
    answers.write(
      {
        port_1_valid: ok[0]!,
        port_2_valid: ok[1]!,
        port_3_valid: ok[2]!,
        port_4_valid: ok[3]!,
        port_1_power: powered[0]!,
        port_2_power: powered[1]!,
        port_3_power: powered[2]!,
        port_4_power: powered[3]!,
        port_1_mode: modes[0]!,
        port_2_mode: modes[1]!,
        port_3_mode: modes[2]!,
        port_4_mode: modes[3]!,
        brine_pressure: ok[0] ? state.pressure * 100 : 0,
        valve_position: ok[1] ? state.valve * 1000 : 0,
        brine_level: ok[2] ? state.level : 0,
        crate_there: ok[3]!,
        parameter_status: state.answer.status,
        parameter_value: state.answer.value,
      },
      into,
    );
  },

  lights: (state, network) =>
    state.ports.map((port, i): Indicator => {
      const name = `port ${i + 1}`;
      if (!network.powered || !port.power || port.powerLost)
        return { name, colour: 'off', pattern: 'steady', means: 'no load power' };
      if (working(port)) {
        // Until revision 1 blinking meant that a device talks; since revision 2 it means that one is missing.
        const talks = port.needs === portModes.ioLink && network.majorRevision < 2;
        return {
          name,
          colour: 'green',
          pattern: talks ? 'flashing' : 'steady',
          means: port.needs === portModes.ioLink ? 'the device talks' : 'switched input',
        };
      }
      if (port.wrongMode || port.mode !== port.needs)
        return { name, colour: 'amber', pattern: 'steady', means: `not in ${modeTexts[port.needs]} mode` };
      return {
        name,
        colour: 'green',
        pattern: network.majorRevision < 2 ? 'steady' : 'flashing',
        means: 'no device talks',
      };
    }),
  faults: [
    portFault('port-power', 'port 2 loses its load power', 'bring the load power back', (injected) => ({
      powerLost: injected,
      awake: 0,
    })),
    portFault('port-mode', 'port 2 is in the wrong mode', 'set port 2 to IO-Link', (injected) => ({
      wrongMode: injected,
      awake: 0,
    })),
  ],
  health: () => 'good',
};
