import type { Locator, Page } from '@playwright/test';
import { reach } from '../keyboard.js';
import { expect, openView, stored, test } from '../page.js';
import { openExchange, runExchange, stateOfRun } from './commands.js';

/**
 * Jobs that come every day, by the keyboard alone, with what each costs a person: a press of a key or a click in its
 * place counts one, what is typed into an entry two (into it, and Enter), a choice from a list two. What follows at the
 * same device may go by the mouse.
 */
class Person {
  count = 0;

  async press(what: Locator): Promise<void> {
    this.count += 1;
    await expect(what).toBeEnabled();
    await reach(what);
    await what.press('Enter');
  }
  async type(what: Locator, text: string): Promise<void> {
    this.count += 2;
    await reach(what);
    await what.fill(text);
    await what.press('Enter');
  }
  async choose(what: Locator, label: string): Promise<void> {
    this.count += 2;
    await reach(what);
    await what.selectOption({ label });
  }
}

const link = (page: Page, name: string) => page.getByRole('link', { name, exact: true });
const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name, exact: true });
const value = (page: Page, name: string) => page.locator(`[data-value="${name}"]`);

const allOpen = (page: Page): Promise<void> =>
  expect(page.getByRole('contentinfo')).toContainText('1 of 1 open');
async function started(page: Page, cellId: string): Promise<void> {
  await page.request.post('/api/bench', { data: { cell: cellId } });
  await openView(page, cellId, 'line-up');
  await allOpen(page);
}

/** At most two thirds of what the same job took before (counted on the version of then, by the same rules). */
const finish = (person: Person, job: string, before: number) => {
  console.log(`${job}: ${person.count}, ${before} before`);
  expect(person.count).toBeLessThanOrEqual((before * 2) / 3);
};

test.describe(() => {
  test.use({ devices: ['rack_lift_a1'] });
  test('an axis is homed and moved, once by hand, there and back by its exchange', async ({
    page,
    cellId,
    clicks,
  }) => {
    await started(page, cellId);
    const person = new Person();
    await person.press(link(page, 'Bench'));
    await person.press(button(page, 'Arm'));
    const byte = page.getByLabel('write byte 0 of the command');
    // Shut down and homing, then enable operation, as its manual has the control word.
    await person.type(byte, '06 00 06');
    await expect(value(page, 'ready_to_switch_on')).toContainText('1');
    await person.type(byte, '07');
    await expect(value(page, 'switched_on')).toContainText('1');
    await person.type(byte, '0F');
    await expect(value(page, 'operation_enabled')).toContainText('1');
    await person.press(button(page, 'pulse new_setpoint'));
    await expect(value(page, 'homed')).toContainText('1');
    await person.type(byte, '07 00 01');
    await expect(value(page, 'mode_display')).toContainText('profile position');
    await person.type(byte, '0F');
    await expect(value(page, 'operation_enabled')).toContainText('1');
    await person.type(page.getByLabel('write target_position'), '120');
    await person.press(button(page, 'pulse new_setpoint'));
    await expect(value(page, 'position_actual')).toContainText(/^\s*120/);
    finish(person, 'axis homed and moved', 25);

    // By its exchange, with the mouse.
    await openExchange(page, cellId, 'rack lift: home, then 120.5 mm');
    const before = await clicks();
    await runExchange(page);
    const reached = page.locator('p').filter({ hasText: 'reached' });
    await expect(reached).toContainText(/reached\s*120\.[45]/);
    const position = page.getByLabel('value of position for this run');
    await position.fill('0');
    await position.press('Enter');
    await runExchange(page);
    await expect(reached).toContainText(/reached\s*-?0(\.0|$)/);
    await expect(page.getByRole('img', { name: /^score: \d+ signals/ })).toBeVisible();
    // The press that chose it is one more.
    const needed = (await clicks()) - before + 1;
    console.log(`axis homed and moved 120.5 mm and back: ${needed}`);
    expect(needed).toBeLessThanOrEqual(8);
  });
});

test.describe(() => {
  test.use({ devices: ['brush_belt_m1'] });
  test('at a drive: a refused size is cured, comments are imported, it moves to another address', async ({
    page,
    request,
    cellId,
  }) => {
    await openView(page, cellId, 'line-up');
    await page.getByLabel('name of brush_belt_m1').click();
    const size = page.getByLabel('size, bytes of the feedback image', { exact: true });
    await size.fill('24');
    await size.press('Enter');
    await expect(page.getByLabel('Device', { exact: true })).toContainText(
      '12 bytes were taken for 16-bit elements',
    );
    await openView(page, cellId, 'bench');
    await request.post('/api/bench', { data: { cell: cellId } });
    const state = page.getByLabel('State of the device');
    await expect(state).toContainText(
      'refused the connection over the size of the feedback image: planned 24 bytes, the device has 12',
    );
    await expect(state).toContainText('16#0128');
    await expect(page.getByRole('contentinfo')).toContainText('0 of 1 open');
    const fitter = new Person();
    await fitter.press(button(page, /findings$/));
    await fitter.press(button(page, 'Take 12 bytes for the feedback image'));
    // The bench runs meanwhile: the link is opened anew.
    await allOpen(page);
    finish(fitter, 'refused size cured', 5);

    await openView(page, cellId, 'line-up');
    const writer = new Person();
    await writer.press(link(page, 'Sight'));
    await writer.press(link(page, 'Table'));
    await writer.type(
      page.getByLabel('rows to read'),
      'Name\tComment\nready\tready to run\nfaulted\ta fault stands\n',
    );
    await writer.press(button(page, 'Take 2 texts'));
    const notes = async () => {
      const [drive] = (await stored(request, cellId)).cell.devices;
      return drive!.links[0]!.feedback.fields.flatMap((f) => (f as { note?: string }).note || []);
    };
    await expect.poll(notes).toEqual(expect.arrayContaining(['ready to run', 'a fault stands']));
    finish(writer, 'comments imported', 9);

    await openView(page, cellId, 'line-up');
    const mover = new Person();
    await mover.type(page.getByLabel('address of brush_belt_m1', { exact: true }), '192.168.40.29');
    // A stand-in goes where the plan says; this one stays where it left the factory, as a real one would.
    await expect.poll(async () => (await stored(request, cellId)).cell.devices[0]!.address).toMatch(/29$/);
    await request.post('/api/bench/inject', {
      data: { device: 'm1', fault: { fault: 'factory-address' } },
    });
    await expect(page.getByRole('contentinfo')).toContainText('0 of 1 open');
    await mover.press(button(page, 'Look on the wire'));
    await mover.press(page.getByRole('button', { name: /^Arm for 30 s: Assign 192\.168\.40\.29/ }));
    await allOpen(page);
    finish(mover, 'another address', 6);
  });
});

test.describe(() => {
  test.use({ devices: ['batch_marker_p1'] });
  test('a label is printed three times, by hand and by its exchange, which is edited and undone', async ({
    page,
    cellId,
  }) => {
    await started(page, cellId);
    const person = new Person();
    await person.press(link(page, 'Bench'));
    await person.press(button(page, 'Arm'));
    await person.press(page.getByLabel('choose format_number').getByRole('button', { name: 'crate' }));
    await person.type(page.getByLabel('write batch_text'), 'L 4711');
    for (let label = 1; label <= 3; label += 1) {
      await expect(value(page, 'ready')).toContainText('1');
      await person.press(button(page, 'one more for sequence'));
      await expect(value(page, 'label_count')).toContainText(String(label));
    }
    finish(person, 'three labels', 12);

    await openExchange(page, cellId, 'batch marker: print a label');
    for (const [name, text] of [
      ['batch_text', 'LOT 47/11'],
      ['date_text', '2026-12-01'],
    ] as const) {
      const entry = page.getByLabel(`value of ${name} for this run`);
      await entry.fill(text);
      await entry.press('Enter');
    }
    await page.getByLabel('how often').fill('3');
    await runExchange(page);
    await expect(stateOfRun(page)).toContainText('run 3 of 3: done');
    await button(page, 'raise the number').click();
    const limit = page.getByLabel('may take, ms');
    await limit.fill('30');
    await limit.press('Enter');
    await expect(page.getByLabel('Exchange', { exact: true })).toContainText('an answer needs two updates');
    await page.keyboard.press('ControlOrMeta+z');
    await expect(limit).toHaveValue('10000');
  });
});
