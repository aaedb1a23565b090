import type { Behaviour } from '../behaviour.js';
import { cyclicOffer } from '../cyclicOffer.js';
import { bit, bytesLayout } from '../bytesLayout.js';

/**
 * A valve terminal that knows explicit messages only: two bytes back, three bytes out. Valves need some time to switch.
 * What it does when nobody asks any more is up to how it was asked: over a connection it drops its outputs, without one
 * it holds them.
 */
export interface ValveState {
  wanted: number;
  /** ms that each of the first eight valves has been on its way; at `switchMs` it has switched. */
  moving: readonly number[];
  switched: number;
  /** bar */
  pressure: number;
  noAir: boolean;
}

const valves = 8;
export const switchMs = 35;

const commands = bytesLayout(3, {
  gripper_close: bit(0),
  gripper_open: bit(1),
  stopper_down: bit(2),
  stopper_up: bit(3),
  blow_off: bit(4),
  centring_out: bit(5),
  centring_in: bit(6),
  spare_valve: bit(7),
  lamp_green: bit(8),
  lamp_red: bit(9),
});
const answers = bytesLayout(2, {
  gripper_close_on: bit(0),
  gripper_open_on: bit(1),
  stopper_down_on: bit(2),
  stopper_up_on: bit(3),
  blow_off_on: bit(4),
  centring_out_on: bit(5),
  centring_in_on: bit(6),
  spare_valve_on: bit(7),
  pressure_ok: bit(8),
  coil_supply_ok: bit(9),
});

export const valveTerminal: Behaviour<ValveState> = {
  title: 'valve terminal, explicit messages only',
  identity: {
    vendor: 65_014,
    deviceType: 0x1b,
    productCode: 77,
    majorRevision: 2,
    minorRevision: 1,
    productName: 'Tannhorn VT8 valves',
  },
  offer: { ...cyclicOffer, cyclic: false },
  assemblies: [
    { instance: 101, use: 'command', size: commands.size, fields: commands.fields },
    { instance: 102, use: 'feedback', size: answers.size, fields: answers.fields },
  ],
  start: () => ({
    wanted: 0,
    moving: Array<number>(valves).fill(0),
    switched: 0,
    pressure: 6.1,
    noAir: false,
  }),
  configure: (state) => state,

  step(before, { elapsedMs, command }) {
    const wanted = command ? command[0]! | (command[1]! << 8) : 0;
    let switched = before.switched;
    const moving = before.moving.map((ms, i) => {
      const want = (wanted >> i) & 1;
      if (want === ((before.switched >> i) & 1)) return 0;
      // A valve needs pressure to switch on; the spring brings it back.
      if (want && before.pressure < 2.5) return 0;
      if (ms + elapsedMs < switchMs) return ms + elapsedMs;
      switched ^= 1 << i;
      return 0;
    });
    const aim = before.noAir ? 0 : 6.1;
    const pressure = before.pressure + (aim - before.pressure) * (1 - Math.exp(-elapsedMs / 300));
    return { ...before, wanted, moving, switched, pressure };
  },
  feedback(state, into) {
    into[0] = state.switched & 0xff;
    into[1] = (state.pressure > 4 ? 1 : 0) | 2;
  },
  faults: [
    {
      id: 'no-air',
      title: 'compressed air is missing',
      reset: 'by itself when the air is back',
      inject: (s) => ({ ...s, noAir: true }),
      clear: (s) => ({ ...s, noAir: false }),
    },
  ],
  health: (s) => (s.pressure > 4 ? 'good' : 'minor'),
};
