import type { APIRequestContext, Page } from '@playwright/test';
import { demoFile, expect, makeCell, openSection, openView, pidOf, stored, test } from '../page.js';
import { pressArmed, setBit, untilObeyed, writeNumber } from './commands.js';

/**
 * Parameters on the wire, at devices that the demo does not have: a drive on Modbus with a layout, names and choices of
 * its own, as it comes from the factory, and an IO-Link master that gives its ports no power.
 */
test.afterEach(async ({ request }) => {
  await request.delete('/api/bench');
});

interface Raw {
  [key: string]: unknown;
}
const place = (start: number) => ({ way: 'register', table: 'holding', start });
const choice = (code: string, name: string, start: number, role: object, ...texts: string[]): Raw => ({
  ...{ id: `s-${code}`, code, name, group: 'Betrieb', place: place(start), type: 'UINT', bits: 16, role },
  ...{ initial: '0', labels: texts.map((text, value) => ({ value, text })) },
});
const bit = (side: string, name: string, at: number, is: string): Raw => ({
  ...{ id: `s-${side}-${name}`, name, type: 'BOOL', at, bits: 1, role: { is } },
});
const speed = (side: string, name: string, is: string): Raw => ({
  ...{ id: `s-${side}-${name}`, name, type: 'INT', at: 16, bits: 16, unit: 'rpm', role: { is } },
});

/** A cell with one device made of one of the demo. */
async function cellWith(
  request: APIRequestContext,
  like: string,
  change: (device: Raw) => void,
): Promise<string> {
  const file = JSON.parse(demoFile) as { cell: { devices: (Raw & { name: string })[]; machine: unknown[] } };
  const device = file.cell.devices.find((d) => d.name === like)!;
  file.cell.devices = [device];
  file.cell.machine = [];
  change(device);
  return makeCell(request, file);
}

const stirrer = (request: APIRequestContext) =>
  cellWith(request, 'brine_pump_m2', (device) => {
    Object.assign(device, { name: 'stirrer_m5', kind: 'variable-speed drive', address: '192.168.40.92' });
    const sides = {
      command: [
        bit('cmd', 'forward', 8, 'forward'),
        bit('cmd', 'reset', 10, 'fault reset'),
        speed('cmd', 'wanted', 'speed reference'),
      ],
      feedback: [
        bit('fb', 'turns', 8, 'running'),
        bit('fb', 'fault', 11, 'faulted'),
        speed('fb', 'actual', 'speed actual'),
      ],
    };
    const description = device['description'] as {
      points: (Raw & { use: 'command' | 'feedback' })[];
      parameters: Raw[];
    };
    for (const point of description.points) point['fields'] = sides[point.use];
    const [link] = device['links'] as Record<'command' | 'feedback', Raw>[];
    for (const side of ['command', 'feedback'] as const) link![side]['fields'] = sides[side];
    description.parameters = [
      choice('B01', 'Befehlsquelle', 7001, { is: 'start source' }, 'Bedienfeld', 'Klemmen', 'Feldbus'),
      choice('B02', 'Sollwertquelle', 7002, { is: 'reference source' }, 'Poti', 'Feldbus'),
      {
        ...{ id: 's-R01', code: 'R01', name: 'Hochlaufzeit', group: 'Rampen', place: place(7010) },
        ...{ type: 'UINT', bits: 16, scale: { factor: '1/100', offset: '0' }, unit: 's', initial: '1.5' },
        role: { is: 'acceleration' },
      },
    ];
  });

/** Starts the bench of a cell with one device, and waits until it is reached. */
async function start(page: Page, request: APIRequestContext, id: string): Promise<void> {
  await request.post('/api/bench', { data: { cell: id } });
  await expect(page.getByRole('contentinfo')).toContainText('1 of 1 open');
}
async function startAndOpen(page: Page, request: APIRequestContext, id: string): Promise<void> {
  await openView(page, id, 'parameters');
  await start(page, request, id);
}

const inDevice = (page: Page, name: string) => page.locator(`[data-device-value="${name}"]`);
/** Reads what stands in the stirrer, and plans that the network commands it. */
async function planSources(page: Page): Promise<void> {
  await button(page, 'Read all').click();
  await expect(inDevice(page, 'Befehlsquelle')).toHaveText('0 · Bedienfeld');
  await openSection(page, 'Sets with reasons');
  await button(page, 'Plan these 2').click();
}
const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name, exact: true });
const value = (page: Page, name: string) => page.locator(`[data-value="${name}"]`);

test('a new drive is compared, its sources are set to the network, written, read back, and it starts', async ({
  page,
  request,
}) => {
  const id = await stirrer(request);
  await startAndOpen(page, request, id);
  await planSources(page);
  await expect(inDevice(page, 'Hochlaufzeit')).toHaveText('1.50 s');
  await expect(page.getByText('✓ planned')).toBeVisible();
  await page.getByLabel('planned Hochlaufzeit').fill('0.5');
  await page.getByLabel('planned Hochlaufzeit').press('Enter');
  await page.getByLabel('only differences (3)').check();
  await button(page, 'All: the plan counts').click();
  // Nothing is written before Arm.
  await expect(button(page, 'Write 3 to the device')).toBeDisabled();
  await pressArmed(page, button(page, 'Write 3 to the device'));
  await expect(page.getByRole('list', { name: 'what was written' })).toContainText(
    'in the device as written',
  );
  await expect(page.getByLabel('only differences (0)')).toBeVisible();
  await expect(page.getByText('No parameter is shown.')).toBeVisible();

  await page.getByRole('link', { name: 'Bench' }).click();
  await untilObeyed(
    async () => {
      await writeNumber(page, 'wanted', 600);
      await setBit(page, 'forward');
    },
    () => expect(value(page, 'actual')).toContainText(/5\d\d|600/, { timeout: 20_000 }),
  );
  await request.delete(`/api/cells/${id}`);
});

test('an agent is killed amid a series of writes, the rest is written; then a set of a person’s own, a parameter twice', async ({
  page,
  request,
}) => {
  const id = await stirrer(request);
  await startAndOpen(page, request, id);
  await planSources(page);
  await button(page, 'All: the plan counts').click();
  // A slow device: the agent is killed before all of it was written.
  const { cell } = await stored(request, id);
  const device = cell.devices[0]!.id;
  await request.post('/api/bench/inject', { data: { device, fault: { fault: 'slow', ms: 300 } } });
  await pressArmed(page, button(page, 'Write 2 to the device'));
  await expect(page.getByText(/^Writes:/)).toBeVisible();
  process.kill(pidOf('agent'), 'SIGKILL');
  // The bench dies with its agent, and is said to stand still.
  await expect(page.getByTestId('bench-state')).toHaveText(/agent is away|stopped/);
  const cut = page.getByRole('region', { name: 'writes that were cut off' });
  await expect(cut.getByRole('listitem')).toHaveText([
    /as written|not known whether taken/,
    /not known whether taken|not tried/,
  ]);
  await expect(page.getByTestId('bench-state')).toHaveText(/stopped/);
  await start(page, request, id);
  await pressArmed(page, button(page, 'Write what is missing'));
  await expect(cut).toHaveCount(0);
  await button(page, 'Read all').click();
  await expect(inDevice(page, 'Befehlsquelle')).toHaveText('2 · Feldbus');
  await expect(inDevice(page, 'Sollwertquelle')).toHaveText('1 · Feldbus');

  await openSection(page, 'Sets of your own');
  await button(page, 'A set of your own').click();
  const form = page.getByRole('form', { name: 'set of your own' });
  await form.getByLabel('title').fill('slow, then local');
  await form.getByLabel(/^steps/).fill('B01 = Feldbus\nHochlaufzeit 3');
  await button(page, 'Keep').click();
  await expect(page.getByText('Line 2 is no step of a set')).toBeVisible();
  await form.getByLabel(/^steps/).fill('B01 = Feldbus\nHochlaufzeit = 3.25\nB01 = Klemmen');
  await button(page, 'Keep').click();
  await pressArmed(page, button(page, 'Write in this order'));
  const written = page.getByRole('list', { name: 'what was written' }).getByRole('listitem');
  await expect(written).toHaveCount(3);
  await button(page, 'Read all').click();
  await expect(inDevice(page, 'Hochlaufzeit')).toHaveText('3.25 s');
  await expect(inDevice(page, 'Befehlsquelle')).toHaveText('1 · Klemmen');
  await request.delete(`/api/cells/${id}`);
});

test('a device that was replaced gets its values back from a snapshot', async ({ page, request }) => {
  const id = await stirrer(request);
  await startAndOpen(page, request, id);
  await button(page, 'Hochlaufzeit').click();
  await page.getByLabel('planned Hochlaufzeit').fill('2.25');
  await page.getByLabel('planned Hochlaufzeit').press('Enter');
  await button(page, 'Read all').click();
  await expect(inDevice(page, 'Hochlaufzeit')).toHaveText('1.50 s');
  await pressArmed(page, button(page, 'Write 2.25 s'));
  await expect(inDevice(page, 'Hochlaufzeit')).toHaveText('2.25 s');
  await openSection(page, 'Compare and keep');
  await button(page, 'Keep a snapshot of 3 values').click();
  await expect(page.getByText('stirrer_m5, 3 values')).toBeVisible();

  // Another one of the same product, from the factory, and a plan that says nothing.
  await page.getByLabel('planned Hochlaufzeit').fill('');
  await page.getByLabel('planned Hochlaufzeit').press('Enter');
  await request.delete('/api/bench');
  await start(page, request, id);
  await button(page, 'Read all').click();
  await expect(inDevice(page, 'Hochlaufzeit')).toHaveText('1.50 s');
  await button(page, 'Compare').click();
  await expect(page.getByText('The same product, revision')).toBeVisible();
  await button(page, 'Restore: choose what differs').click();
  await pressArmed(page, button(page, 'Write 1 to the device'));
  await expect(inDevice(page, 'Hochlaufzeit')).toHaveText('2.25 s');
  await request.delete(`/api/cells/${id}`);
});

test('a port without load power is found and cured; a device behind it is read byte by byte, and missed', async ({
  page,
  request,
  clicks,
}) => {
  const onOff = [
    { value: 0, text: 'aus' },
    { value: 1, text: 'on' },
  ];
  const id = await cellWith(request, 'port_hub_g1', (device) => {
    Object.assign(device, { name: 'valve_hub_g2', address: '192.168.40.96' });
    const description = device['description'] as { parameters: Raw[]; ports: Raw[] };
    description.ports[0]!['name'] = 'dosing pressure';
    const power = [1, 2, 3, 4].map((port) => ({
      ...{ id: `s-L${port}`, code: `L${port}`, name: `Lastversorgung ${port}`, group: 'Ports' },
      ...{
        place: place(8000 + port),
        type: 'UINT',
        bits: 16,
        initial: port === 2 ? '0' : '1',
        labels: onOff,
      },
      role: { is: 'load power', number: port },
    }));
    description.parameters = [...power, ...description.parameters];
  });
  await request.post('/api/bench', { data: { cell: id } });
  await openView(page, id, 'bench');
  await expect(value(page, 'port_1_valid')).toContainText('valid');
  await expect(value(page, 'port_2_valid')).toContainText('void');
  await button(page, /findings$/).click();
  await button(page, 'Plan on').click();
  await expect
    .poll(async () => (await stored(request, id)).cell.devices[0]!.description.parameters[1])
    .toMatchObject({ planned: '1' });
  await page.getByRole('link', { name: 'Parameters' }).click();
  await button(page, 'Read all').click();
  await expect(inDevice(page, 'Lastversorgung 2')).toHaveText('0 · aus');
  await button(page, 'All: the plan counts').click();
  await pressArmed(page, button(page, 'Write 1 to the device'));
  await page.getByRole('link', { name: 'Bench' }).click();
  await expect(value(page, 'port_2_valid')).toContainText('valid');
  const counted = await clicks();
  console.log(`a port without load power: ${counted} clicks`);
  expect(counted).toBeLessThanOrEqual(12);

  // What talks at port 1, through its mailbox.
  await page.getByRole('link', { name: 'Parameters' }).click();
  await page.getByLabel('filter', { exact: true }).fill('damping');
  await button(page, 'Damping').click();
  await button(page, 'Read').click();
  await expect(inDevice(page, 'Damping')).toHaveText('0 ms');
  await page.getByText('Request and answer, byte by byte').click();
  // The mailbox of port 1: read index 102, and two bytes come back.
  const asked = page.getByRole('list', { name: 'request' }).filter({ hasText: '00 01 00 66 00 00 00 02' });
  await expect(asked).toContainText('first address: 7000');

  await openSection(page, 'Ports');
  await page.getByText('dosing pressure').click();
  await button(page, 'Read what says it').first().click();
  const chain = page.getByRole('list', { name: 'port 1' });
  await expect(chain.getByRole('listitem')).toHaveText([
    /closed:\s*load power/,
    /closed:\s*talks/,
    /closed:\s*the planned device/,
    /closed:\s*input length/,
    /closed:\s*output length/,
  ]);
  const { id: hub } = (await stored(request, id)).cell.devices[0]!;
  const unplugged = { device: hub, fault: { fault: 'device', id: 'unplugged' } };
  expect((await request.post('/api/bench/inject', { data: unplugged })).ok()).toBe(true);
  await expect(chain.getByRole('listitem').nth(1)).toHaveText(/open:\s*talks: No device talks/);
  await button(page, 'Read').click();
  await expect(page.getByText('no device talks at the port', { exact: false }).first()).toBeVisible();
  await request.delete(`/api/cells/${id}`);
});

test.describe(() => {
  test.use({ devices: ['brush_belt_m1'] });
  test('three parameters are chosen cyclically: seen in the layout, in the code, and on the wire', async ({
    page,
    request,
    cellId,
  }) => {
    await startAndOpen(page, request, cellId);
    await openSection(page, 'Cyclic parameters');
    await page.getByLabel('feedback place 1').selectOption({ label: '155 Rated speed' });
    await page.getByLabel('feedback place 2').selectOption({ label: '227 Firmware' });
    await page.getByLabel('command place 2').selectOption({ label: '121 Highest frequency' });
    await expect
      .poll(async () =>
        (await stored(request, cellId)).cell.devices[0]!.links[0]!.feedback.fields.map((f) => f.name),
      )
      .toEqual(expect.arrayContaining(['rated_speed', 'firmware']));
    await button(page, 'Read all').click();
    await page.getByLabel('only differences (3)').check();
    await button(page, 'All: the plan counts').click();
    await pressArmed(page, button(page, 'Write 3 to the device'));
    await expect(page.getByLabel('only differences (0)')).toBeVisible();

    // What was chosen comes with every packet: 1425 rpm, revision 2.11.
    await page.getByRole('link', { name: 'Bench' }).click();
    await expect(page.getByRole('contentinfo')).toContainText('1 of 1 open');
    await expect(value(page, 'rated_speed')).toContainText('1425 rpm');
    await expect(value(page, 'firmware')).toContainText('2.11');
    await writeNumber(page, 'highest_frequency', 12.5);
    await page.getByRole('link', { name: 'Parameters' }).click();
    await expect(async () => {
      await button(page, 'Read all').click();
      await expect(inDevice(page, 'Highest frequency')).toHaveText('12.50 Hz', { timeout: 2000 });
    }).toPass();
    // Saved to memory, the choice outlasts a restart of the device.
    await openSection(page, 'Save and restart');
    await pressArmed(page, button(page, 'save to memory'));
    await pressArmed(page, button(page, 'restart'));
    await expect(page.getByRole('contentinfo')).toContainText('1 of 1 open');
    await page.getByLabel('filter', { exact: true }).fill('feedback place');
    await expect(async () => {
      await button(page, 'Read all').click();
      await expect(inDevice(page, 'Feedback place 1')).toHaveText('155', { timeout: 2000 });
    }).toPass();
    const code = await (await request.get(`/api/cells/${cellId}/handover/code`)).text();
    expect(code).toMatch(/highest_frequency : REAL/);
    expect(code).toMatch(/rated_speed : /);
  });
});
