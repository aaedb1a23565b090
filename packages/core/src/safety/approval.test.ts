import { createHash } from 'node:crypto';
import { describe, expect, test } from 'vitest';
import { applyEdit } from '../cell/edits/edit.js';
import { copiesOf } from '../cell/copies.js';
import { testCell, testDevice, testLink } from '../cell/testCell.js';
import { check } from '../checks/check.js';
import type { Cell, Device } from '../cell/model.js';
import { Field } from '../layout/field.js';
import { approvalStands, contentHash } from './approval.js';
import { signalAt } from './placement.js';
import { SafetyLogic } from './safetyLogic.js';

const logic = SafetyLogic.parse({
  blocks: [
    { id: 'c', name: 'curtain', is: 'curtain', beams: 12 },
    { id: 'b', name: 'button', is: 'button' },
    { id: 'r', name: 'restart', is: 'reset', in: [{ from: 'c' }, { from: 'b' }] },
  ],
  status: [{ id: 's', from: 'r', block: 'status', offset: 1, bit: 3 }],
});
/** On Modbus, its status in a block that begins at byte 2. */
function approved(): { cell: Cell; device: Device } {
  const link = testLink('modbus-tcp');
  const numbering = {
    ...{ notation: 'byte', before: 0, slot: 0, subslot: 0, signals: [] },
    blocks: [{ name: 'status', at: 2, first: 0 }],
  };
  const feedback = {
    ...{ ...link.feedback, size: 8, numbering, groups: [], derived: [] },
    fields: [Field.parse({ id: 'f1', name: 'restart_ok', type: 'BOOL', at: 27, bits: 1 })],
  };
  const device: Device = {
    ...testDevice(),
    ...{ kind: 'safety controller', links: [{ ...link, feedback } as never], safety: logic },
  };
  const approval = { by: 'A. Tester', at: '2026-11-30T10:00:00Z', hash: contentHash(device) };
  const safe = { ...device, safety: { ...logic, approval } };
  return { cell: testCell([safe]), device: safe };
}

describe('an approval', () => {
  test('stands for what was approved: SHA-256 as Node has it', () => {
    const { cell, device } = approved();
    expect(approvalStands(device)).toBe(true);
    expect(check(cell).map(({ code }) => code)).not.toContain('safety.approvalWithdrawn');
    const { blocks, status } = logic;
    const content = { blocks, status, places: [{ byte: 3, signal: 'restart_ok' }], size: 8 };
    expect(contentHash(device)).toBe(createHash('sha256').update(JSON.stringify(content)).digest('hex'));
    expect(signalAt(logic.status[0]!, device.links[0]!.feedback)).toMatchObject({ bit: 0 });
  });

  const set = (part: object) => ({ edit: 'device.set', device: '', set: { safety: { ...logic, ...part } } });
  const [curtain, button, restart] = logic.blocks;
  const [bit] = logic.status;
  const changes: [string, (device: Device) => unknown][] = [
    ['a beam more', () => set({ blocks: [{ ...curtain, beams: 13 }, button, restart] })],
    ['another pitch', () => set({ blocks: [{ ...curtain, pitch: 30 }, button, restart] })],
    [
      'a wire turned round',
      () => set({ blocks: [curtain, button, { ...restart, in: [{ from: 'c', not: true }, { from: 'b' }] }] }),
    ],
    ['another edge', () => set({ blocks: [curtain, button, { ...restart, edge: 'rising' }] })],
    ['a block renamed', () => set({ blocks: [{ ...curtain, name: 'gate' }, button, restart] })],
    [
      'a block more',
      () => set({ blocks: [...logic.blocks, { id: 'n', name: 'not', is: 'not', in: [{ from: 'c' }] }] }),
    ],
    ['a block gone', () => set({ blocks: [curtain, button] })],
    ['another bit', () => set({ status: [{ ...bit, bit: 4 }] })],
    ['another offset', () => set({ status: [{ ...bit, offset: 2 }] })],
    ['another block of the image', () => set({ status: [{ ...bit, block: '' }] })],
    ['a bit turned round', () => set({ status: [{ ...bit, not: true }] })],
    ['a bit of another block', () => set({ status: [{ ...bit, from: 'c' }] })],
    ['a bit gone', () => set({ status: [] })],
    [
      'the field renamed',
      (d) => ({
        ...{ edit: 'field.set', image: d.links[0]!.feedback.id, field: 'f1', set: { name: 'other' } },
      }),
    ],
    [
      'the field moved',
      (d) => ({
        ...{ edit: 'field.set', image: d.links[0]!.feedback.id, field: 'f1', set: { at: 28 } },
      }),
    ],
    [
      'the block of the image moved',
      (d) => ({
        ...{ edit: 'image.set', image: d.links[0]!.feedback.id },
        set: {
          numbering: { ...d.links[0]!.feedback.numbering, blocks: [{ name: 'status', at: 4, first: 0 }] },
        },
      }),
    ],
    [
      'the image made longer',
      (d) => ({
        ...{ edit: 'image.set', image: d.links[0]!.feedback.id, set: { size: 10 } },
      }),
    ],
  ];
  test.each(changes)('is withdrawn by %s', (_title, change) => {
    const { cell, device } = approved();
    const edit = change(device) as { device?: string; set: { safety?: object } };
    if (edit.device === '') edit.device = device.id;
    if (edit.set.safety) Object.assign(edit.set.safety, { approval: device.safety!.approval });
    const next = applyEdit(cell, edit as never);
    expect(approvalStands(next.devices[0]!)).toBe(false);
    const codes = check(next).map(({ code }) => code);
    if (next.devices[0]!.safety!.status.length > 0)
      expect(codes.some((c) => c === 'safety.notApproved' || c === 'safety.approvalWithdrawn')).toBe(true);
  });

  test('is kept by what changes nothing of it, and a copy has none', () => {
    const { cell, device } = approved();
    const renamed = applyEdit(cell, { edit: 'device.set', device: device.id, set: { serves: 'the gate' } });
    expect(approvalStands(renamed.devices[0]!)).toBe(true);
    const noted = applyEdit(cell, {
      ...{ edit: 'device.set', device: device.id },
      set: { safety: { ...device.safety, note: 'seen on site' } },
    });
    expect(approvalStands(noted.devices[0]!)).toBe(true);
    let ids = 0;
    const plan = { count: 1, namePattern: '', designationPattern: '', first: 1, addressStep: 1 };
    const { devices } = copiesOf(cell, device, plan, () => `n${(ids += 1)}`);
    expect(devices[0]!.safety).toMatchObject({ approval: null, blocks: logic.blocks });
  });

  test('findings: circle, open wire, bits outside and twice', () => {
    const { cell, device } = approved();
    const wrong = {
      ...logic,
      blocks: [...logic.blocks, { id: 'x', name: 'x', is: 'not', in: [{ from: 'x', not: false }] }],
      status: [bit, { ...bit!, id: 't' }, { ...bit!, id: 'u', offset: 90 }],
    };
    const codes = check(
      applyEdit(cell, { edit: 'device.set', device: device.id, set: { safety: wrong } } as never),
    ).map(({ code }) => code);
    expect(codes).toEqual(expect.arrayContaining(['safety.circle', 'safety.bitTwice', 'safety.bitOutside']));
  });
});
