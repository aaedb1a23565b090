import type { LinkOf } from '../cell/link.js';
import { describe, expect, test } from 'vitest';
import { testCell, testDevice, testLink } from '../cell/testCell.js';
import { portShare, wireBytes } from '../protocols/frames.js';
import { lineUpBudget } from './lineUpBudget.js';
import { linkBudget, longestUpdate } from '../protocols/linkBudget.js';

describe('frames', () => {
  // RFC 2544, appendix B: most frames a second of Ethernet at 10 Mbit/s, by frame size with its check sequence (from
  // memory).
  test.each([
    [64, 14_880],
    [128, 8445],
    [256, 4528],
    [512, 2349],
    [768, 1586],
    [1024, 1197],
    [1280, 961],
    [1518, 812],
  ])('frames of %i bytes: %i a second fill 10 Mbit/s', (frame, maximum) => {
    const payload = frame - 14 - 20 - 8 - 4;
    expect(wireBytes(payload)).toBe(frame + 20);
    const share = portShare(wireBytes(payload) * maximum, 10);
    expect(share).toBeGreaterThan(0.998);
    expect(share).toBeLessThanOrEqual(1);
  });

  test('a short payload is filled up to the shortest frame', () => {
    expect(wireBytes(1)).toBe(84);
    expect(wireBytes(18)).toBe(84);
    expect(wireBytes(19)).toBe(85);
  });
});

describe('a link', () => {
  const link = (part: Partial<LinkOf<'ethernet-ip'>>) => testLink('ethernet-ip', part);

  test('8 bytes with run/idle word out, 12 bare bytes back, at 20 ms', () => {
    // 18 bytes of items, 2 of sequence count, 4 of run/idle word, 8 of data; and 18 + 2 + 12 (CIP Vol. 2, 2-6; Vol. 1,
    // 3-6.1).
    const budget = linkBudget(link({}), 10);
    expect(budget.command).toMatchObject({ payload: 32, wire: 98, packetsPerSecond: 50 });
    expect(budget.feedback).toMatchObject({ payload: 32, wire: 98 });
    expect(budget.packetsPerSecond).toBe(100);
    expect(budget.command.share).toBeCloseTo((98 * 8 * 50) / 100e6, 12);
    // 20 + 10 + 10 + 20 at the worst; 10 + 5 + 10 + 10 typically. Four times 20 ms until the loss is seen.
    expect(budget.reaction).toEqual({ worst: 60, typical: 35 });
    expect(budget.lossNoticed).toBe(80);
  });

  test('who only listens sends 20 empty bytes', () => {
    expect(linkBudget(link({ connection: 'input-only' }), 10).command.payload).toBe(20);
  });

  test('requests at a poll time: a question and an answer each, over TCP', () => {
    // Encapsulation header 24, SendRRData 16 with its items, service and path 8, for 8 bytes written; the answer 4 (CIP
    // Vol. 2, 2-4.7).
    const { command, feedback, packetsPerSecond } = linkBudget(
      link({ connection: 'polled-unconnected', commandRpi: 50_000, feedbackRpi: 50_000 }),
      10,
    );
    expect(command.payload).toBe(24 + 16 + 8 + 8);
    expect(feedback.payload).toBe(24 + 16 + 4 + 12);
    // To the device go the write and the question, from it the answers of both.
    expect([command.packetsPerSecond, feedback.packetsPerSecond, packetsPerSecond]).toEqual([40, 40, 80]);
    // Connected: 4 bytes of connection id and 2 of sequence count more.
    const connected = linkBudget(link({ connection: 'polled-connected' }), 10);
    expect(connected.command.payload - command.payload).toBe(6);
  });

  test('blocks of registers: questions of 12 bytes, answers of 9 and the registers, by the limits of the protocol', () => {
    const block = { id: 'b', name: 'b', at: 0, fresh: null, age: null, table: 'holding' as const };
    const blocks = [
      { ...block, direction: 'feedback' as const, start: 0, count: 200, poll: 100_000 },
      { ...block, direction: 'command' as const, start: 300, count: 2, poll: 50_000 },
    ];
    const { command, feedback } = linkBudget(testLink('modbus-tcp', { blocks }), 10);
    // Application Protocol V1.1b3, 6.3 and 6.12; 125 registers an answer, so 200 take two: 125 and 75.
    expect(command.bytesPerSecond).toBe(20 * wireBytes(12, 'tcp') + 20 * wireBytes(7 + 6 + 4, 'tcp'));
    expect(feedback.bytesPerSecond).toBe(
      10 * (wireBytes(9 + 250, 'tcp') + wireBytes(9 + 150, 'tcp')) + 20 * wireBytes(12, 'tcp'),
    );
    expect([command.packetsPerSecond, feedback.packetsPerSecond]).toEqual([40, 40]);
  });

  test('the longest update time meets the reaction that is wanted, the next step would not', () => {
    for (const wanted of [30, 60, 100, 137, 500]) {
      const update = longestUpdate(wanted, 10)!;
      const worst = (ms: number) =>
        linkBudget(link({ commandRpi: ms * 1000, feedbackRpi: ms * 1000 }), 10).reaction.worst;
      expect(worst(update)).toBeLessThanOrEqual(wanted);
      expect(worst(update + 10)).toBeGreaterThan(wanted);
    }
    expect(longestUpdate(20, 10)).toBeUndefined();
  });
});

describe('the line-up', () => {
  const device = (id: string, ms: number, multiplier: 4 | 16) => {
    const [link] = testDevice().links;
    const times = { commandRpi: ms * 1000, feedbackRpi: ms * 1000, timeoutMultiplier: multiplier };
    return testDevice({ id, links: [{ ...link!, ...times, id: `l-${id}` }] });
  };

  test('sums, and which device is the slowest and which is missed last', () => {
    const cell = testCell([device('d1', 20, 4), device('d2', 50, 4), device('d3', 20, 16)]);
    cell.controller.cycle = 10_000;
    const budget = lineUpBudget(cell);
    // 50, 20 and 50 packets a second each way.
    expect(budget).toMatchObject({ connections: 3, packetsPerSecond: 240 });
    expect(budget.command).toBeCloseTo((98 * 8 * 120) / 100e6, 12);
    // 50 + 10 + 10 + 50; 16 times 20 is longer than 4 times 50.
    expect(budget.slowest).toEqual({ device: 'd2', ms: 120 });
    expect(budget.noticedLast).toEqual({ device: 'd3', ms: 320 });
    expect(lineUpBudget(cell, [cell.devices[0]!])).toMatchObject({ connections: 1, packetsPerSecond: 100 });
  });

  test('without links nothing is slow', () =>
    expect(lineUpBudget(testCell([]))).toEqual({
      connections: 0,
      packetsPerSecond: 0,
      command: 0,
      feedback: 0,
      slowest: undefined,
      noticedLast: undefined,
    }));
});
