import { describe, expect, test } from 'vitest';
import type { Link } from '../cell/link.js';
import { functionBlock } from '../handover/structuredText/exchangeCode.js';
import { structuredText } from '../handover/structuredText/structuredText.js';
import { blockInstance, runPack, runUnpack } from '../handover/structuredText/testInterpreter.js';
import type { Scalar } from '../handover/structuredText/testValues.js';
import { identifierOf } from '../entries/identifiers.js';
import type { Cell } from '../cell/model.js';
import { exchangeFindings } from './check.js';
import type { Exchange } from '../cell/exchange.js';
import { readyMade } from './readyMade/list.js';
import { ExchangeRun } from './run.js';
import { cases, layoutsOf, titleOf, type Case } from './testCases.js';
import { cellWith, scanMs, TestMachine, type Wire } from './testMachine.js';
import { runs } from '../testRuns.js';

/** Longer than all limits of one exchange together: what still runs then hangs. */
const longestMs = 300_000;
/** Of each combination. */
const seeds = runs(6);
let ids = 0;
const newId = () => `s${(ids += 1)}`;

function made(
  one: Case,
  protocol: Link['protocol'],
  at: number,
): { cell: Cell; exchange: Exchange; link: Link } {
  const { cell, device } = cellWith(one.kind, layoutsOf(one, 2)[at]!, protocol);
  const recipe = readyMade.find(({ id }) => id === one.recipe)!;
  expect(recipe.fits(device)).toBe(true);
  const exchange = harderToQuote(recipe.make(device, newId));
  const controller = { ...cell.controller, elementBits: 8 as const };
  return { cell: { ...cell, controller, exchanges: [exchange] }, exchange, link: device.links[0]! };
}

/** What ends a character string in code stands in every reason. */
const harderToQuote = (exchange: Exchange): Exchange => ({
  ...exchange,
  steps: exchange.steps.map((step) => ({ ...step, reason: step.reason && `it's $1: ${step.reason}` })),
});

/** Runs it to its end; `look` sees each scan. */
function played(
  one: Case,
  { cell, exchange, link }: ReturnType<typeof made>,
  wire: Wire,
  look?: (machine: TestMachine, now: number) => void,
) {
  const machine = new TestMachine(one.kind, link, { ...wire, met: one.met });
  const run = new ExchangeRun(cell, exchange, () => machine, one.given);
  let now = 0;
  for (; run.state === 'running' && now < longestMs; now += scanMs) {
    run.scan(now);
    look?.(machine, now);
    machine.step();
  }
  return { run, machine, now };
}

const protocols: readonly Link['protocol'][] = ['ethernet-ip', 'modbus-tcp'];
const combinations = cases.flatMap((one) =>
  protocols.map((protocol, at) => [`${titleOf(one)} over ${protocol}`, one, protocol, at] as const),
);

describe.each(combinations)('%s', (_title, one, protocol, at) => {
  const built = made(one, protocol, at);

  test('its check finds nothing', () => {
    expect(exchangeFindings(built.cell, built.exchange).map(({ says }) => says)).toEqual([]);
  });

  test('on a wire without loss it does its work', () => {
    const { run, machine } = played(one, built, { seed: 1, lost: 0, delay: 0 });
    expect(run.failure).toBeUndefined();
    expect([run.state, one.ends(machine.now, run.variables)]).toEqual(['done', true]);
  });

  test(`${seeds} seeded runs with delays, losses and faults: right, or failed at a named step`, () => {
    for (let seed = 1; seed <= seeds; seed += 1) {
      const fault = seed % 3 === 0 && one.fault ? { id: one.fault, atMs: 40 * (1 + (seed % 60)) } : undefined;
      const wire = { seed: seed * 7919, lost: seed % 12, delay: seed % 4, fault };
      const { run, machine } = played(one, built, wire);
      expect(run.state).not.toBe('running');
      if (run.state === 'done') {
        // A fault that comes when its work is done keeps it from nothing.
        if (!fault) expect(one.ends(machine.now, run.variables)).toBe(true);
      } else {
        expect(run.failure?.reason).not.toBe('');
        expect(run.failure?.step === null || built.exchange.steps[run.failure!.step!]).toBeTruthy();
        // Without a fault nothing but a wire that lost too much explains it.
        if (!fault) expect(wire.lost).toBeGreaterThan(0);
      }
    }
  }, 300_000);

  test('the written function block gives the same command images, scan by scan', () => {
    const { cell, exchange } = built;
    const code = `${structuredText(cell)}\n${functionBlock(cell, exchange)}`;
    const block = identifierOf(exchange.name);
    const reads = code.includes('  unit_a1_feedback : ');
    const ageCount = code.match(/age_of_\w+ : UDINT/g)?.length ?? 0;
    const given = inputsOf(one, exchange);
    const unpack = once((elements: readonly bigint[]) =>
      // Registers were just read.
      runUnpack(code, 'unit_a1_unpack', [...elements], Array<bigint>(ageCount).fill(0n)),
    );
    const pack = once((command: readonly (readonly [string, Scalar])[]) =>
      runPack(code, 'unit_a1_pack', Object.fromEntries(command)),
    );
    for (const wire of [
      { seed: 3, lost: 0, delay: 1 },
      { seed: 11, lost: 25, delay: 3, fault: one.fault ? { id: one.fault, atMs: 300 } : undefined },
    ]) {
      const written = blockInstance(code, block);
      let command: [string, Scalar][] = [];
      let last: Record<string, Scalar> = {};
      let scans = 0;
      const { run } = played(one, built, wire, (machine, now) => {
        scans += 1;
        const feedback = unpack(elementsOf(machine.feedback, protocol));
        last = written(
          {
            execute: true,
            unit_a1_command: Object.fromEntries(command),
            ...(reads ? { unit_a1_feedback: feedback } : {}),
            ...given,
          },
          now,
        );
        command = Object.entries(last).flatMap(([path, value]) =>
          path.startsWith('unit_a1_command.') ? [[path.slice('unit_a1_command.'.length), value]] : [],
        );
        const packed = pack(command);
        const wanted = elementsOf(machine.command, protocol);
        if (String(packed) !== String(wanted)) expect({ now, packed }).toEqual({ now, packed: wanted });
      });
      expect(scans).toBeGreaterThan(2);
      expect([last['done'], last['error'], last['busy']]).toEqual([
        run.state === 'done',
        run.state === 'failed',
        false,
      ]);
      if (run.state === 'failed')
        expect([Number(last['failed_step']), last['reason']]).toEqual([
          (run.failure!.step ?? -1) + 1,
          run.failure!.reason.slice(0, 80),
        ]);
    }
  });
});

/** The inputs of a block that stand for variables of the exchange. */
const inputsOf = (one: Case, exchange: Exchange): Record<string, Scalar> =>
  Object.fromEntries(
    exchange.variables.flatMap(({ name, result }) =>
      result || one.given?.[name] === undefined ? [] : [[identifierOf(name), one.given[name]]],
    ),
  );
/** A FUNCTION of IEC 61131-3 has no memory (6.6.2.1): of the same argument as before it makes the same. */
function once<A extends readonly unknown[], R>(make: (argument: A) => R): (argument: A) => R {
  let before: string | undefined;
  let result: R;
  return (argument) => {
    const key = String(argument);
    if (key !== before) result = make(argument);
    before = key;
    return result;
  };
}

/** The controller of these tests has elements of one byte; registers have two, the high one first. */
const elementsOf = (bytes: Uint8Array, protocol: Link['protocol']): bigint[] =>
  protocol === 'modbus-tcp'
    ? Array.from({ length: bytes.length / 2 }, (_, i) => BigInt((bytes[2 * i]! << 8) | bytes[2 * i + 1]!))
    : [...bytes].map(BigInt);
