import { describe, expect, test } from 'vitest';
import { changesForDevice, tableDescriberOf } from '../describers/index.js';
import { describerOf } from '../describers/eds/edsOfDevice.js';
import { replacement } from '../lineup/replace.js';
import {
  asDescribed,
  lightAt,
  lightsAt,
  lightsText,
  portLights,
  readLights,
  type LightMeaning,
} from './light.js';
import { testDevice } from '../cell/testCell.js';

const open: LightMeaning = {
  light: 'module',
  colour: 'green',
  pattern: 'flashing',
  means: 'calibration is open',
};
const lost: LightMeaning = { light: 'MS 2', colour: 'red', pattern: '2 pulses', means: 'no = sign is lost' };
const dark: LightMeaning = { light: 'link', colour: 'off', pattern: 'steady', means: 'no cable' };

describe('light meanings as text, read and written', () => {
  test.each([
    ['a blink code', 'module: flashing green = calibration is open', [open]],
    ['counted pulses', 'MS 2: 2 pulses red = no = sign is lost', [lost]],
    ['a light that is off', 'link: off = no cable', [dark]],
    [
      'two colours',
      'net: alternating red and green = tests itself',
      [{ light: 'net', colour: 'red and green', pattern: 'alternating', means: 'tests itself' }],
    ],
    ['none', '', []],
  ] as const)('%s', (_says, text, lights) => {
    expect(readLights(text)).toEqual({ lights, bad: [] });
    expect(lightsText(lights)).toBe(text);
  });

  test.each([
    'module flashing green = x',
    'module: blinking green = x',
    'module: flashing green',
    '= x',
    'm: 0 pulses red = x',
  ])('no light: %s', (text) => expect(readLights(text)).toEqual({ lights: [], bad: [text] }));
});

test('a light says what the describer of its device says, otherwise what the standard says', () => {
  const shown = { name: 'Module', colour: 'green', pattern: 'flashing', means: 'stand-by' } as const;
  expect(asDescribed(shown, [open]).means).toBe('calibration is open');
  expect(asDescribed({ ...shown, pattern: 'steady' }, [open]).means).toBe('stand-by');
  expect(asDescribed(shown, [lost]).means).toBe('stand-by');
});

test('a light burns as the description says of the state that it shows', () => {
  const idle: LightMeaning = {
    light: 'module',
    colour: 'green',
    pattern: '2 pulses',
    means: 'idle',
    when: 'idle',
  };
  const shown = { name: 'Module', colour: 'green', pattern: 'flashing', means: 'stand-by' } as const;
  expect(lightAt(shown, 'idle', [open, idle])).toEqual({ ...shown, pattern: '2 pulses', means: 'idle' });
  expect(lightAt(shown, 'unlocked', [open, idle])).toBe(shown);
  expect(lightAt(shown, undefined, [open, idle])).toBe(shown);
  expect(lightsText([idle])).toBe('module when idle: 2 pulses green = idle');
  expect(readLights(lightsText([idle, open]))).toEqual({ lights: [idle, open], bad: [] });
});

describe('another revision', () => {
  const device = testDevice({}, { lights: [open, dark] });
  const newer = testDevice({}, { lights: [{ ...open, means: 'stand-by' }, lost] });

  test('meanings that change, go and come are said', () => {
    const changes = changesForDevice(device, tableDescriberOf(newer));
    expect(changes.map((c) => [c.section, c.name, c.before, c.after])).toEqual([
      ['light', 'module, flashing green', 'calibration is open', 'stand-by'],
      ['light', 'link, off', 'no cable', null],
      ['light', 'MS 2, 2 pulses red', null, 'no = sign is lost'],
    ]);
    expect(replacement(device, newer).device.description.lights).toEqual(newer.description.lights);
  });

  test('a data sheet knows of no lights: none is said to go, and none goes', () => {
    const sections = changesForDevice(device, describerOf(device)).map((c) => c.section);
    expect(sections).not.toContain('light');
    expect(replacement(device, testDevice()).device.description.lights).toEqual(device.description.lights);
  });
});

describe('a light that says something else since a revision', () => {
  const text = [
    'port 3 before 2.1: steady green = its device talks',
    'port 3 since 2.1: steady green = in IO-Link mode, whatever its device does',
    'port 3 since 2.1 when silent: flashing green = no device',
    'port 13: steady red = a short circuit',
  ].join('\n');
  const { lights, bad } = readLights(text);
  const at = (majorRevision: number, minorRevision: number) => ({ majorRevision, minorRevision });
  test('goes into text and back', () => {
    expect([bad, lights.length, lightsText(lights)]).toEqual([[], 4, text]);
    expect(readLights('port 3 since two: steady green = x').lights[0]?.light).not.toBe('port 3');
  });
  test('means what it means at the revision of the device', () => {
    const shown = { name: 'port 3', colour: 'green', pattern: 'steady', means: '' };
    const meaning = (major: number, minor: number) =>
      asDescribed(shown, lightsAt(lights, at(major, minor))).means;
    expect([meaning(2, 0), meaning(1, 99), meaning(2, 1), meaning(3, 0)]).toEqual([
      ...['its device talks', 'its device talks'],
      ...['in IO-Link mode, whatever its device does', 'in IO-Link mode, whatever its device does'],
    ]);
  });
  test('beside its port, each revision, the present one marked', () => {
    const lit = (identity: ReturnType<typeof at>) => ({ description: { lights, identity: null }, identity });
    expect(portLights(lit(at(2, 0)), 3).map(({ now }) => now)).toEqual([true, false, false]);
    expect(portLights(lit(at(2, 0)), 3)[1]!.text).toBe(
      'since 2.1: steady green = in IO-Link mode, whatever its device does',
    );
    expect(portLights(lit(at(1, 1)), 13)).toEqual([{ text: 'steady red = a short circuit', now: true }]);
  });
});
