import { spawnSync } from 'node:child_process';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterEach, beforeEach, expect, test } from 'vitest';

const script = fileURLToPath(new URL('../walls.mjs', import.meta.url));

let house: string;
beforeEach(async () => {
  house = await mkdtemp(join(tmpdir(), 'fadenkreuz-walls-'));
});
afterEach(() => rm(house, { recursive: true }));

/** Builds a house of these files, each with its imports, and says what the check makes of it. */
async function checked(files: Record<string, string[]>): Promise<{ status: number | null; says: string }> {
  for (const [path, imports] of Object.entries(files)) {
    const file = join(house, 'packages/core/src', path);
    await mkdir(dirname(file), { recursive: true });
    const lines = imports.map((from, i) => `import { x as x${i} } from '${from}';`);
    await writeFile(
      file,
      [...lines, 'export const x = 1;', ...imports.map((_, i) => `void x${i};`)].join('\n'),
    );
  }
  const { status, stdout } = spawnSync('node', [script, house], { encoding: 'utf8' });
  return { status, says: stdout };
}

test('arrows that point downwards pass', async () => {
  const { status } = await checked({
    'checks/rule.ts': ['../cell/model.js'],
    'cell/model.ts': ['../devices/description.js'],
    'devices/description.ts': [],
    'devices/byRoles/robot.ts': ['../description.js'],
  });
  expect(status).toBe(0);
});

test.each([
  ['by itself', { 'checks/rule.ts': ['../devices/byRoles/robot.js'] }],
  ['through another', { 'checks/rule.ts': ['../devices/list.js'] }],
])('a check that sees a behaviour, %s, fails', async (_says, files) => {
  const { status, says } = await checked({
    'devices/byRoles/robot.ts': [],
    'devices/list.ts': ['./byRoles/robot.js'],
    ...files,
  });
  expect(status).toBe(1);
  expect(says).toContain('checks-know-no-simulator');
});

test('folders that import in a circle fail, although no file does', async () => {
  const { status, says } = await checked({
    'cell/model.ts': ['../layout/field.js'],
    'cell/names.ts': [],
    'layout/field.ts': [],
    'layout/titles.ts': ['../cell/names.js'],
  });
  expect(status).toBe(1);
  expect(says).toContain('folders import in a circle');
  expect(says).not.toContain('no-circles');
});

test('one protocol that knows another fails', async () => {
  const { status, says } = await checked({
    'protocols/profinet/link.ts': ['../modbusTcp/link.js'],
    'protocols/modbusTcp/link.ts': [],
  });
  expect(status).toBe(1);
  expect(says).toContain('protocols-stand-alone');
});
