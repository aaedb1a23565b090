import type { Behaviour } from '../behaviour.js';
import { cyclicOffer } from '../cyclicOffer.js';
import { bit, bytesLayout, uint } from '../bytesLayout.js';
import { nextSeed, swing } from '../disturbance.js';
import { clamp, lag } from '../motions.js';

/**
 * A process I/O module in a ripening room: two switched and two analog outputs act on the room, and the room answers
 * slowly. Analog channels count from 0 to 30000. Calibration values open only after a key word.
 */
export interface ClimateState {
  heaterLevel: number;
  fanLevel: number;
  heaterOn: boolean;
  humidifierOn: boolean;
  fanOn: boolean;
  flapOpen: boolean;
  /** °C */
  temperature: number;
  /** % relative humidity */
  humidity: number;
  /** m/s */
  airSpeed: number;
  /** °C, as the filtered analog input sees it. */
  shownTemperature: number;
  /** ms */
  filterTime: number;
  holdOnLoss: boolean;
  /** Counts cycles with a running controller, 16 bits. */
  cycles: number;
  /** 0.01 K, added to the measured temperature. */
  calibration: number;
  maintenance: boolean;
  supplyFails: boolean;
  seed: number;
}

const fullScale = 30_000;
/** Air outside the room, °C and %. */
const outside = { temperature: 9, humidity: 68 };
/** What full outputs add in the long run. */
const heaterRise = 24;
const humidifierRise = 27;
const fullAirSpeed = 6;
/** Time constants, s: the room is slow, the fan is not. */
const roomTime = 240;
const humidityTime = 150;
const fanTime = 2.5;
/** Opens the calibration values. */
const keyWord = 0x4b45;

const commands = bytesLayout(8, {
  heater: bit(0),
  humidifier: bit(1),
  fan: bit(2),
  flap: bit(3),
  heater_level: uint(16),
  fan_level: uint(32),
});
const answers = bytesLayout(12, {
  heater_on: bit(0),
  humidifier_on: bit(1),
  fan_on: bit(2),
  flap_open: bit(3),
  controller_runs: bit(8),
  supply_ok: bit(9),
  too_warm: bit(10),
  room_temperature: uint(16),
  room_humidity: uint(32),
  air_speed: uint(48),
  supply_voltage: uint(64),
  cycle_count: uint(80),
});
const settings = bytesLayout(4, { filter_time: uint(0), hold_on_loss: bit(16) });

const toCounts = (share: number) => Math.round(clamp(share, 0, 1) * fullScale);

type Outputs = Pick<
  ClimateState,
  'heaterOn' | 'humidifierOn' | 'fanOn' | 'flapOpen' | 'heaterLevel' | 'fanLevel' | 'cycles'
>;

function outputs(state: ClimateState, command: Uint8Array | undefined, run: boolean): Outputs {
  const { holdOnLoss, cycles } = state;
  if (!command || !run) {
    if (holdOnLoss) return state;
    const off = { heaterOn: false, humidifierOn: false, fanOn: false, flapOpen: false };
    return { ...off, heaterLevel: 0, fanLevel: 0, cycles };
  }
  const wanted = commands.read(command);
  return {
    heaterOn: wanted.heater,
    humidifierOn: wanted.humidifier,
    fanOn: wanted.fan,
    flapOpen: wanted.flap,
    heaterLevel: clamp(wanted.heater_level / fullScale, 0, 1),
    fanLevel: clamp(wanted.fan_level / fullScale, 0, 1),
    cycles: (cycles + 1) & 0xffff,
  };
}

export const climateIo: Behaviour<ClimateState> = {
  title: 'process I/O in a ripening room',
  identity: {
    vendor: 65_013,
    deviceType: 0x0c,
    productCode: 412,
    majorRevision: 3,
    minorRevision: 4,
    productName: 'Murmel PX-8 process I/O',
  },
  offer: cyclicOffer,
  loss: { by: 'configuration', bytes: settings.size, holdBit: 16 },
  assemblies: [
    { instance: 120, use: 'command', size: commands.size, fields: commands.fields },
    { instance: 110, use: 'feedback', size: answers.size, fields: answers.fields },
    { instance: 150, use: 'configuration', size: settings.size, fields: settings.fields },
    { instance: 198, use: 'input-only', size: 0, fields: [] },
    { instance: 199, use: 'listen-only', size: 0, fields: [] },
  ],

  start: (seed) => ({
    heaterLevel: 0,
    fanLevel: 0,
    heaterOn: false,
    humidifierOn: false,
    fanOn: false,
    flapOpen: false,
    temperature: 11.6,
    humidity: 84,
    airSpeed: 0,
    shownTemperature: 11.6,
    filterTime: 500,
    holdOnLoss: false,
    cycles: 0,
    calibration: 0,
    maintenance: false,
    supplyFails: false,
    seed: nextSeed(seed),
  }),

  configure(state, data) {
    if (data.length < settings.size) return state;
    const { filter_time, hold_on_loss } = settings.read(data);
    return { ...state, filterTime: filter_time, holdOnLoss: hold_on_loss };
  },

  settings: (state, into) =>
    settings.write({ filter_time: state.filterTime, hold_on_loss: state.holdOnLoss }, into),

  // Hot path: a hundred of these run fifty times a second (bench/cyclic). A literal that spreads and then overwrites
  // would cost ten times as much.
  step(state, { elapsedMs, command, run }) {
    const { filterTime, holdOnLoss, calibration, maintenance, supplyFails } = state;
    const { heaterOn, humidifierOn, fanOn, flapOpen, heaterLevel, fanLevel, cycles } = outputs(
      state,
      command,
      run,
    );
    const seconds = elapsedMs / 1000;
    const seed = nextSeed(state.seed);
    // Without its supply the module measures, but its outputs have no power.
    const live = !supplyFails;
    const heating = live && heaterOn ? heaterLevel * heaterRise : 0;
    // An open flap lets outside air in: the room follows it twice as fast and takes half the heat.
    const exchange = live && flapOpen ? 2 : 1;
    const aim = outside.temperature + 2.6 + heating / exchange;
    const temperature = lag(state.temperature, aim, seconds * exchange, roomTime);
    const moist = outside.humidity + 16 + (live && humidifierOn ? humidifierRise / 2 : 0) - heating / 3;
    const air = live && fanOn ? fanLevel * fullAirSpeed : 0;
    const seen = temperature + calibration / 100 + swing(seed) * 0.02;
    return {
      heaterOn,
      humidifierOn,
      fanOn,
      flapOpen,
      heaterLevel,
      fanLevel,
      cycles,
      filterTime,
      holdOnLoss,
      calibration,
      maintenance,
      supplyFails,
      temperature,
      humidity: clamp(lag(state.humidity, moist, seconds * exchange, humidityTime), 0, 100),
      airSpeed: lag(state.airSpeed, air, seconds, fanTime),
      shownTemperature: lag(state.shownTemperature, seen, seconds, Math.max(filterTime, 1) / 1000),
      seed,
    };
  },

  feedback(state, into) {
    answers.write(
      {
        heater_on: state.heaterOn,
        humidifier_on: state.humidifierOn,
        fan_on: state.fanOn,
        flap_open: state.flapOpen,
        controller_runs: state.cycles > 0,
        supply_ok: !state.supplyFails,
        too_warm: state.temperature > 30,
        room_temperature: toCounts((state.shownTemperature + 10) / 60),
        room_humidity: toCounts(state.humidity / 100),
        air_speed: toCounts(state.airSpeed / fullAirSpeed),
        supply_voltage: state.supplyFails ? 17_200 : 24_000 + Math.round(swing(state.seed) * 40),
        cycle_count: state.cycles,
      },
      into,
    );
  },

  parameters: [
    {
      ...{ number: 1, name: 'Filter time', unit: 'ms', help: 'Smooths the analog inputs' },
      ...{ type: 'UINT', minimum: 1, maximum: 10_000, default: 500, access: 'read-write' },
      get: (s) => s.filterTime,
      set: (s, raw) => ({ ...s, filterTime: raw }),
    },
    {
      ...{ number: 2, name: 'Key word', unit: '', help: 'Opens the calibration values; 0 closes them' },
      ...{ type: 'UINT', minimum: 0, maximum: 0xffff, default: 0, access: 'read-write' },
      get: () => 0,
      set: (s, raw) => ({ ...s, maintenance: raw === keyWord }),
    },
    {
      ...{ number: 3, name: 'Temperature calibration', unit: 'K', help: 'Added to the measured value' },
      ...{
        type: 'INT',
        minimum: -500,
        maximum: 500,
        default: 0,
        divisor: 100,
        decimals: 2,
        access: 'read-write',
      },
      get: (s) => s.calibration,
      set: (s, raw) =>
        !s.maintenance
          ? 'locked'
          : // Without its supply the reference of the analog inputs drifts: an error of this maker's own.
            s.supplyFails
            ? 'device'
            : { ...s, calibration: raw },
    },
  ],

  faults: [
    {
      id: 'supply',
      title: 'output supply fails',
      reset: 'by itself when the supply is back',
      inject: (s) => ({ ...s, supplyFails: true }),
      clear: (s) => ({ ...s, supplyFails: false }),
    },
  ],
  health: (s) => (s.supplyFails ? 'minor' : 'good'),

  moduleLight(state, network) {
    // From revision 3.4 on the same blinking means something else than before.
    const newer = network.majorRevision > 3 || (network.majorRevision === 3 && network.minorRevision >= 4);
    if (newer && state.maintenance)
      return { name: 'module', colour: 'green', pattern: 'flashing', means: 'calibration is open' };
    return newer && network.connections > 0 && !network.run
      ? { name: 'module', colour: 'green', pattern: '2 pulses', means: 'stand-by: the controller idles' }
      : undefined;
  },
};
