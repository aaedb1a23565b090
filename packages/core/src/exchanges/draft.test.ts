import { expect, test } from 'vitest';
import { exchangeFindings } from './check.js';
import { draftFrom, type HeardImage } from './draft.js';
import { readyMade } from './readyMade/list.js';
import { ExchangeRun } from './run.js';
import { cases, layoutsOf } from './testCases.js';
import { cellWith, scanMs, TestMachine } from './testMachine.js';

let ids = 0;
const newId = () => `n${(ids += 1)}`;

test.each(['trigger and result', 'command code', 'enable'])(
  'what was done by hand (%s) becomes a draft that does the same, on a layout of no demo device',
  (recipe) => {
    const one = cases.find((c) => c.recipe === recipe)!;
    const { cell, device } = cellWith(one.kind, layoutsOf(one, 2)[1]!, 'ethernet-ip');
    const [link] = device.links;
    const machine = new TestMachine(one.kind, link!, { seed: 5, lost: 0, delay: 0, met: one.met });
    const byHand = new ExchangeRun(
      cell,
      readyMade.find((r) => r.id === recipe)!.make(device, newId),
      () => machine,
      one.given,
    );
    const heard: HeardImage[] = [];
    const listen = (at: number) =>
      heard.push(
        { at, image: link!.command.id, bytes: machine.command.slice() },
        { at, image: link!.feedback.id, bytes: machine.feedback.slice() },
      );
    let now = 0;
    listen(now);
    for (; byHand.state === 'running' || now < 500; now += scanMs) {
      byHand.scan(now);
      machine.step();
      listen(now);
      // A person is slower than the wire.
      for (let i = 0; byHand.state === 'running' && i < 30; i += 1) {
        machine.step();
        listen((now += scanMs));
      }
    }
    expect(byHand.state).toBe('done');

    const draft = draftFrom(cell, heard, 'by hand', newId);
    expect(draft.steps.length).toBeGreaterThan(0);
    // By role, so that another device of the kind takes it over.
    expect(draft.steps.flatMap((s) => s.orders).every((o) => o.place.role !== null)).toBe(true);
    expect(exchangeFindings(cell, draft).filter((f) => f.severity === 'error')).toEqual([]);

    const fresh = new TestMachine(one.kind, link!, { seed: 6, lost: 0, delay: 1, met: one.met });
    for (let i = 0; i < 300; i += 1) fresh.step();
    const again = new ExchangeRun(cell, draft, () => fresh);
    for (let at = 0; again.state === 'running' && at < 60_000; at += scanMs) {
      again.scan(at);
      fresh.step();
    }
    expect([again.state, again.failure]).toEqual(['done', undefined]);
  },
);
