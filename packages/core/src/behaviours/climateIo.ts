import { Field } from '../cell/field.js';
import { compileCodec, type Codec } from '../layout/codec.js';
import { signalsOf } from '../layout/signals.js';
import type { AssemblySpec, Behaviour } from './behaviour.js';
import { nextSeed, swing } from './disturbance.js';

/**
 * A process I/O module in a ripening room: two switched and two analog outputs act on the room, and the room answers
 * slowly. Analog channels count from 0 to 30000.
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

const field = (part: Partial<Field> & Pick<Field, 'id' | 'type' | 'at' | 'bits'>): Field =>
  Field.parse({ name: part.id, ...part });
const bitField = (id: string, at: number): Field => field({ id, type: 'BOOL', at, bits: 1 });
const counts = (id: string, at: number): Field => field({ id, type: 'UINT', at, bits: 16 });

const commandFields = [
  bitField('heater', 0),
  bitField('humidifier', 1),
  bitField('fan', 2),
  bitField('flap', 3),
  counts('heaterLevel', 16),
  counts('fanLevel', 32),
];
const feedbackFields = [
  bitField('heaterOn', 0),
  bitField('humidifierOn', 1),
  bitField('fanOn', 2),
  bitField('flapOpen', 3),
  bitField('controllerRuns', 8),
  bitField('supplyOk', 9),
  bitField('tooWarm', 10),
  counts('temperature', 16),
  counts('humidity', 32),
  counts('airSpeed', 48),
  counts('supply', 64),
  counts('cycles', 80),
];
const configurationFields = [counts('filterTime', 0), bitField('holdOnLoss', 16)];

const assemblies: AssemblySpec[] = [
  { instance: 120, use: 'command', size: 8, fields: commandFields },
  { instance: 110, use: 'feedback', size: 12, fields: feedbackFields },
  { instance: 150, use: 'configuration', size: 4, fields: configurationFields },
];

const codecFor = (fields: Field[]) => compileCodec(signalsOf({ fields, groups: [], order: 'little' }));
const places = (codec: Codec) => Object.fromEntries(codec.signals.map((s, i) => [s.id, i]));
const commandCodec = codecFor(commandFields);
const feedbackCodec = codecFor(feedbackFields);
const configurationCodec = codecFor(configurationFields);
const cmd = places(commandCodec);
const fb = places(feedbackCodec);

const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
const clamp = (value: number, most: number) => Math.max(0, Math.min(most, value));
const toCounts = (share: number) => Math.round(clamp(share, 1) * fullScale);
/** Where a first-order lag has come after `seconds`. */
const lag = (now: number, target: number, seconds: number, time: number) =>
  target + (now - target) * Math.exp(-seconds / time);

function outputs(state: ClimateState, command: Uint8Array | undefined, run: boolean): ClimateState {
  if (!command || !run) {
    if (state.holdOnLoss) return state;
    return {
      ...state,
      heaterOn: false,
      humidifierOn: false,
      fanOn: false,
      flapOpen: false,
      heaterLevel: 0,
      fanLevel: 0,
    };
  }
  commandCodec.decode(viewOf(command));
  const on = (id: string) => commandCodec.numberAt(cmd[id]!) === 1;
  const level = (id: string) => clamp(commandCodec.numberAt(cmd[id]!) / fullScale, 1);
  return {
    ...state,
    heaterOn: on('heater'),
    humidifierOn: on('humidifier'),
    fanOn: on('fan'),
    flapOpen: on('flap'),
    heaterLevel: level('heaterLevel'),
    fanLevel: level('fanLevel'),
    cycles: (state.cycles + 1) & 0xffff,
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
  assemblies,

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
    seed: nextSeed(seed),
  }),

  configure(state, data) {
    if (data.length === 0) return state;
    configurationCodec.decode(viewOf(data));
    return {
      ...state,
      filterTime: configurationCodec.numberAt(0),
      holdOnLoss: configurationCodec.numberAt(1) === 1,
    };
  },

  step(before, { elapsedMs, command, run }) {
    const state = outputs(before, command, run);
    const seconds = elapsedMs / 1000;
    const seed = nextSeed(state.seed);
    const heating = state.heaterOn ? state.heaterLevel * heaterRise : 0;
    // An open flap lets outside air in: the room follows it twice as fast and takes half the heat.
    const exchange = state.flapOpen ? 2 : 1;
    const temperature = lag(
      state.temperature,
      outside.temperature + 2.6 + heating / exchange,
      seconds * exchange,
      roomTime,
    );
    const moist = outside.humidity + 16 + (state.humidifierOn ? humidifierRise / 2 : 0) - heating / 3;
    return {
      ...state,
      temperature,
      humidity: clamp(lag(state.humidity, moist, seconds * exchange, humidityTime), 100),
      airSpeed: lag(state.airSpeed, state.fanOn ? state.fanLevel * fullAirSpeed : 0, seconds, fanTime),
      shownTemperature: lag(
        state.shownTemperature,
        temperature + swing(seed) * 0.02,
        seconds,
        Math.max(state.filterTime, 1) / 1000,
      ),
      seed,
    };
  },

  feedback(state, into) {
    const put = (id: string, value: boolean | number) => feedbackCodec.setValue(fb[id]!, value);
    put('heaterOn', state.heaterOn);
    put('humidifierOn', state.humidifierOn);
    put('fanOn', state.fanOn);
    put('flapOpen', state.flapOpen);
    put('controllerRuns', state.cycles > 0);
    put('supplyOk', true);
    put('tooWarm', state.temperature > 30);
    put('temperature', toCounts((state.shownTemperature + 10) / 60));
    put('humidity', toCounts(state.humidity / 100));
    put('airSpeed', toCounts(state.airSpeed / fullAirSpeed));
    put('supply', 24_000 + Math.round(swing(state.seed) * 40));
    put('cycles', state.cycles);
    feedbackCodec.encode(viewOf(into));
  },
};
