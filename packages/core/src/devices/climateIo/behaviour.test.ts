import { describe, expect, test } from 'vitest';
import { climateIo, type ClimateState } from './behaviour.js';

/** Command image: bits heater, humidifier, fan, flap; words 1 and 2 the levels in counts of 0 to 30000. */
function command(bits: number, heaterLevel = 0, fanLevel = 0): Uint8Array {
  const bytes = new Uint8Array(8);
  const view = new DataView(bytes.buffer);
  view.setUint8(0, bits);
  view.setUint16(2, heaterLevel, true);
  view.setUint16(4, fanLevel, true);
  return bytes;
}
function run(
  state: ClimateState,
  seconds: number,
  bytes: Uint8Array | undefined,
  running = true,
  elapsedMs = 100,
): ClimateState {
  let now = state;
  for (let t = 0; t < seconds * 1000; t += elapsedMs)
    now = climateIo.step(now, {
      elapsedMs,
      command: bytes,
      instance: 120,
      run: running,
      met: () => undefined,
    });
  return now;
}
const counts = (state: ClimateState, word: number) => {
  const bytes = new Uint8Array(12);
  climateIo.feedback(state, bytes, 110);
  return new DataView(bytes.buffer).getUint16(word * 2, true);
};

describe('climate module', () => {
  const start = climateIo.start(7);

  test('the heater warms the room slowly: one time constant reaches 63 % of the way', () => {
    const warm = run(start, 240, command(0b0001, 30_000));
    // 11.6 °C now, 35.6 °C in the long run: 11.6 + 24 × (1 − 1/e) = 26.77
    expect(warm.temperature).toBeCloseTo(26.77, 1);
    expect(counts(warm, 1)).toBe(Math.round(((warm.shownTemperature + 10) / 60) * 30_000));
  });

  test('half the level brings half the rise; the switch alone brings none', () => {
    expect(run(start, 5000, command(0b0001, 15_000)).temperature).toBeCloseTo(23.6, 1);
    expect(run(start, 60, command(0b0001, 0)).temperature).toBeCloseTo(11.6, 1);
    expect(run(start, 60, command(0, 30_000)).temperature).toBeCloseTo(11.6, 1);
  });

  test('the fan is quick, and its speed is measured', () => {
    const blown = run(start, 20, command(0b0100, 0, 15_000));
    expect(blown.airSpeed).toBeCloseTo(3, 2);
    expect(counts(blown, 3)).toBe(Math.round((blown.airSpeed / 6) * 30_000));
  });

  test('an open flap takes half the heat', () => {
    expect(run(start, 5000, command(0b1001, 30_000)).temperature).toBeCloseTo(23.6, 1);
  });

  test('without a controller, or with one that is idle, the outputs drop', () => {
    const heating = run(start, 10, command(0b0001, 30_000));
    expect(heating.heaterOn).toBe(true);
    expect(run(heating, 1, undefined).heaterOn).toBe(false);
    expect(run(heating, 1, command(0b0001, 30_000), false).heaterOn).toBe(false);
  });

  test('configuration can make it hold instead, and sets the filter', () => {
    const holding = climateIo.configure(start, Uint8Array.of(0xf4, 0x01, 0x01, 0x00));
    expect(holding).toMatchObject({ filterTime: 500, holdOnLoss: true });
    const heating = run(holding, 1, command(0b0001, 30_000));
    expect(run(heating, 1, undefined).heaterOn).toBe(true);
    expect(climateIo.configure(heating, new Uint8Array())).toBe(heating);
  });

  test('the step length does not matter to the room', () => {
    const coarse = run(start, 100, command(0b0001, 30_000), true, 1000);
    const fine = run(start, 100, command(0b0001, 30_000), true, 10);
    expect(coarse.temperature).toBeCloseTo(fine.temperature, 6);
  });

  test('the same seed gives the same run; states are left as they were', () => {
    const copy = structuredClone(start);
    expect(run(start, 3, command(1, 9000))).toEqual(run(climateIo.start(7), 3, command(1, 9000)));
    expect(start).toEqual(copy);
    expect(run(climateIo.start(8), 3, undefined).shownTemperature).not.toBe(
      run(start, 3, undefined).shownTemperature,
    );
  });

  test('levels above full scale count as full', () => {
    expect(run(start, 1, command(0b0001, 65_535)).heaterLevel).toBe(1);
  });

  test('the cycle counter runs over at 16 bits', () => {
    expect(run({ ...start, cycles: 0xffff }, 0.01, command(0), true, 10).cycles).toBe(0);
  });
});

test('calibration: closed without the key word, an error of the maker’s own without the supply', () => {
  const write = (state: ClimateState, raw: number) =>
    climateIo.parameters!.find((p) => p.number === 3)!.set!(state, raw);
  const start = climateIo.start(7);
  const open = climateIo.parameters!.find((p) => p.number === 2)!.set!(start, 0x4b45) as ClimateState;
  expect(write(start, 20)).toBe('locked');
  expect(write({ ...open, supplyFails: true }, 20)).toBe('device');
  expect(write(open, 20)).toMatchObject({ calibration: 20 });
});
