// Walks through docs/guide/moving-axis.md in a running, freshly reset demo and takes its pictures:
//   ./start --reset-demo        then, in another terminal:   node e2e/guide.mjs 'http://127.0.0.1:8470/?token=…'
import { chromium } from '@playwright/test';
import { launchOptions } from './chromium.mjs';

const [, , address, folder = 'docs/screenshots'] = process.argv;
// As the start prints it, with its token.
const { origin: base, searchParams } = new URL(address);
const extraHTTPHeaders = { authorization: `Bearer ${searchParams.get('token')}` };
const browser = await chromium.launch(launchOptions);
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, extraHTTPHeaders });
page.setDefaultTimeout(15_000);
const shot = (name) => page.screenshot({ path: `${folder}/${name}.png` });
const view = async (name) => {
  await page.getByRole('link', { name, exact: true }).click();
  await page.waitForTimeout(900);
};

/** The two tables as the manual of the axis prints them. */
const bits = (byte, names) =>
  names.map((name, bit) => (name ? `${byte}\t${bit}\t${name}\tBOOL\t\t` : '')).filter(Boolean);
const head = 'Byte\tBit\tName\tType\tUnit\tFactor';
const command = [
  head,
  ...bits(0, [
    'switch_on',
    'enable_voltage',
    'quick_stop_inactive',
    'enable_operation',
    'new_setpoint',
    'change_at_once',
  ]),
  ...bits(0, ['', '', '', '', '', '', 'relative', 'fault_reset']),
  '2\t\tmode\tSINT\t\t',
  '4\t\ttarget_position\tDINT\tmm\t0.001',
  '8\t\tprofile_velocity\tUDINT\tmm/s\t0.001',
  '12\t\tacceleration\tUDINT\tmm/s²\t0.001',
  '16\t\ttorque_limit\tUINT\t%\t0.1',
].join('\n');
const feedback = [
  head,
  ...bits(0, [
    'ready_to_switch_on',
    'switched_on',
    'operation_enabled',
    'fault',
    'voltage_enabled',
    'quick_stop_inactive',
  ]),
  ...bits(1, [
    '',
    'remote',
    'target_reached',
    'internal_limit',
    'setpoint_acknowledge',
    'following_error',
    '',
    'homed',
  ]),
  '2\t\tmode_display\tSINT\t\t',
  '4\t\tposition_actual\tDINT\tmm\t0.001',
  '8\t\tvelocity_actual\tDINT\tmm/s\t0.001',
  '16\t\ttorque_actual\tINT\t%\t0.1',
  '18\t\terror_code\tUINT\t\t',
].join('\n');

await page.request.delete(`${base}/api/bench`);
await page.goto(`${base}/cells/ripening-store-3/line-up`);
await page.getByRole('button', { name: 'Add device' }).click();
const form = page.getByLabel('Device', { exact: true });
await form.getByLabel('name').fill('oven_door_a2');
await form.getByLabel('kind').selectOption('servo axis');
await form.getByLabel('address').fill('192.168.40.33');
await form.getByRole('spinbutton', { name: 'instance' }).nth(0).fill('104');
await form.getByRole('spinbutton', { name: 'instance' }).nth(1).fill('105');
await form.getByLabel('sizes are counted in').selectOption('32-bit elements');
for (const side of ['first', 'last']) await form.getByRole('spinbutton', { name: 'size' })[side]().fill('5');
await form.getByLabel(/configuration/).fill('106');
await form.getByRole('button', { name: 'Add' }).click();
await page.getByLabel('stand-in').selectOption({ label: 'servo axis of a lift' });
await page.waitForTimeout(1500);

for (const [image, rows] of [
  ['command', command],
  ['feedback', feedback],
]) {
  await page.goto(`${base}/cells/ripening-store-3/sight/table`);
  await page.getByLabel('device', { exact: true }).selectOption({ label: 'oven_door_a2' });
  await page
    .getByRole('group', { name: 'direction' })
    .getByRole('button', { name: new RegExp(image) })
    .click();
  await page.getByLabel('rows to read').fill(rows);
  await page.getByRole('button', { name: 'Read', exact: true }).click();
  await page.waitForTimeout(500);
  if (image === 'command') await shot('guide-table');
  await page.getByRole('button', { name: /^Take/ }).click();
  await page.waitForTimeout(900);
}

await view('Bench');
await page.getByRole('button', { name: 'Start' }).click();
await page.getByText(/(\d+) of \1 open/).waitFor();
await page.getByRole('main').getByRole('button', { name: 'oven_door_a2', exact: true }).click();
await page.waitForTimeout(1500);
await page.getByRole('button', { name: 'Arm', exact: true }).click();
await page.waitForTimeout(800);
const bit = (name, value) =>
  page
    .getByRole('group', { name: `write ${name}`, exact: true })
    .getByRole('button', { name: value, exact: true })
    .click();
const write = async (name, value) => {
  await page.getByLabel(`write ${name}`).fill(value);
  await page.getByLabel(`write ${name}`).press('Enter');
};
await write('mode', '6');
await write('profile_velocity', '200');
await write('acceleration', '1000');
await write('torque_limit', '100');
for (const name of ['enable_voltage', 'quick_stop_inactive']) await bit(name, '1');
await page.waitForTimeout(500);
await bit('switch_on', '1');
await page.waitForTimeout(500);
await bit('enable_operation', '1');
await page.waitForTimeout(500);
await bit('new_setpoint', '1');
await page.waitForTimeout(6000);
for (const name of ['new_setpoint', 'enable_operation']) await bit(name, '0');
await page.waitForTimeout(400);
await write('mode', '1');
await page.waitForTimeout(400);
await bit('enable_operation', '1');
await write('target_position', '900');
await page.waitForTimeout(500);
await bit('new_setpoint', '1');
await page.waitForTimeout(1500);
await shot('guide-axis');
await page.waitForTimeout(3000);
const values = await page.getByRole('main').innerText();
console.log(values.match(/position_actual[\s\S]{0,40}/)?.[0].replaceAll('\n', ' '));
await page.request.delete(`${base}/api/bench`);
await browser.close();
