import type { Locator, Page } from '@playwright/test';
import { changeCell, expect, openView, stored, test } from '../page.js';

/**
 * Jobs that come every day, by the keyboard alone, with what each costs a person: a press of a key or a click in its
 * place counts one, what is typed into an entry two (into it, and Enter), a choice from a list two.
 */
class Person {
  count = 0;

  /** What a keyboard can get to: it takes the focus, and is in the order of Tab. */
  private async reach(what: Locator): Promise<void> {
    // A view that opens takes the focus to its top.
    await expect(async () => {
      await what.focus();
      await expect(what).toBeFocused({ timeout: 500 });
    }).toPass();
    expect(await what.evaluate((e) => (e as HTMLElement).tabIndex)).toBeGreaterThanOrEqual(0);
  }
  async press(what: Locator): Promise<void> {
    this.count += 1;
    await expect(what).toBeEnabled();
    await this.reach(what);
    await what.press('Enter');
  }
  async type(what: Locator, text: string): Promise<void> {
    this.count += 2;
    await this.reach(what);
    await what.fill(text);
    await what.press('Enter');
  }
  async choose(what: Locator, label: string): Promise<void> {
    this.count += 2;
    await this.reach(what);
    await what.selectOption({ label });
  }
}

const link = (page: Page, name: string) => page.getByRole('link', { name, exact: true });
const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name, exact: true });
const value = (page: Page, name: string) => page.locator(`[data-value="${name}"]`);

async function started(page: Page, cellId: string, first = 'line-up'): Promise<void> {
  await page.request.post('/api/bench', { data: { cell: cellId } });
  await openView(page, cellId, first);
  await expect(page.getByRole('contentinfo')).toContainText('1 of 1 open');
}

/** At most two thirds of what the same job took before (counted on the version of then, by the same rules). */
const finish = (person: Person, job: string, before: number) => {
  console.log(`${job}: ${person.count}, ${before} before`);
  expect(person.count).toBeLessThanOrEqual((before * 2) / 3);
};

test.describe(() => {
  test.use({ devices: ['rack_lift_a1'] });
  test('an axis is homed and moved once', async ({ page, cellId }) => {
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
  });
});

test.describe(() => {
  test.use({ devices: ['brush_belt_m1'] });
  test('a refused size is found and cured', async ({ page, request, cellId }) => {
    const image = (await stored(request, cellId)).cell.devices[0]!.links[0]!.feedback.id;
    await changeCell(request, cellId, { edit: 'image.set', image, set: { size: 14 } });
    await request.post('/api/bench', { data: { cell: cellId } });
    await openView(page, cellId, 'bench');
    const person = new Person();
    await expect(page.getByRole('contentinfo')).toContainText('0 of 1 open');
    await person.press(button(page, /findings$/));
    await person.press(button(page, 'Take 12 bytes for the feedback image'));
    await expect(page.getByRole('contentinfo')).toContainText('1 of 1 open');
    finish(person, 'refused size cured', 5);
  });

  test('comments are imported', async ({ page, request, cellId }) => {
    await openView(page, cellId, 'line-up');
    const person = new Person();
    await person.press(link(page, 'Sight'));
    await person.press(link(page, 'Table'));
    const rows = page.getByLabel('rows to read');
    await rows.focus();
    person.count += 1;
    await rows.fill('Name\tComment\nready\tready to run\nfaulted\ta fault stands\n');
    await rows.press('Enter');
    person.count += 1;
    await person.press(button(page, 'Take 2 texts'));
    await expect
      .poll(async () =>
        (
          (await stored(request, cellId)).cell.devices[0]!.links[0]!.feedback.fields as unknown as {
            note?: string;
          }[]
        ).flatMap((f) => f.note || []),
      )
      .toEqual(expect.arrayContaining(['ready to run', 'a fault stands']));
    finish(person, 'comments imported', 9);
  });

  test('a device moves to another address', async ({ page, request, cellId }) => {
    await started(page, cellId);
    const person = new Person();
    await person.type(page.getByLabel('address of brush_belt_m1', { exact: true }), '192.168.40.29');
    // A stand-in goes where the plan says; this one stays where it left the factory, as a real one would.
    await expect.poll(async () => (await stored(request, cellId)).cell.devices[0]!.address).toMatch(/29$/);
    await request.post('/api/bench/inject', {
      data: { device: 'm1', fault: { fault: 'factory-address' } },
    });
    await expect(page.getByRole('contentinfo')).toContainText('0 of 1 open');
    await person.press(button(page, 'Look on the wire'));
    await person.press(page.getByRole('button', { name: /^Arm for 30 s: Assign 192\.168\.40\.29/ }));
    await expect(page.getByRole('contentinfo')).toContainText('1 of 1 open');
    finish(person, 'another address', 6);
  });
});

test.describe(() => {
  test.use({ devices: ['batch_marker_p1'] });
  test('a label is printed three times', async ({ page, cellId }) => {
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
  });
});

test.describe(() => {
  test.use({ devices: ['port_hub_g1'] });
  test('an IO-Link port is brought to life', async ({ page, request, cellId }) => {
    await started(page, cellId);
    const struck = await request.post('/api/bench/inject', {
      data: { device: 'g1', fault: { fault: 'device', id: 'port-power' } },
    });
    expect(await struck.text()).not.toContain('"says"');
    const person = new Person();
    await person.press(link(page, 'Bench'));
    await expect(value(page, 'port_2_valid')).toContainText('void');
    await person.press(button(page, 'Clear'));
    await expect(value(page, 'port_2_valid')).toContainText('valid');
    console.log(`port brought to life: ${person.count}`);
    expect(person.count).toBe(2);
  });
});
