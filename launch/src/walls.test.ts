import { spawnSync } from 'node:child_process';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, test } from 'vitest';

const script = fileURLToPath(new URL('../walls.mjs', import.meta.url));

/** Builds a house of these files, each with its imports, and says what the check makes of it. */
async function checked(files: Record<string, string[]>): Promise<{ status: number | null; says: string }> {
  const house = await mkdtemp(join(tmpdir(), 'fadenkreuz-walls-'));
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
  await rm(house, { recursive: true });
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

// One house with everything that is wrong: a run takes seconds, and says all of it.
describe('what is wrong is said', () => {
  let says: string[];
  beforeAll(async () => {
    const house = await checked({
      'checks/direct.ts': ['../devices/byRoles/robot.js'],
      'checks/through.ts': ['../devices/list.js'],
      'devices/byRoles/robot.ts': [],
      'devices/list.ts': ['./byRoles/robot.js'],
      'cell/model.ts': ['../layout/field.js'],
      'cell/names.ts': [],
      'layout/field.ts': [],
      'layout/titles.ts': ['../cell/names.js'],
      'protocols/profinet/link.ts': ['../modbusTcp/link.js'],
      'protocols/modbusTcp/link.ts': [],
    });
    expect(house.status).toBe(1);
    says = house.says.split('\n');
  });

  test.each([
    ['a check that sees a behaviour by itself', 'checks-know-no-simulator', 'checks/direct.ts'],
    ['a check that sees a behaviour through another', 'checks-know-no-simulator', 'checks/through.ts'],
    ['one protocol that knows another', 'protocols-stand-alone', 'protocols/profinet/link.ts'],
    ['folders that import in a circle, although no file does', 'folders import in a circle', 'cell'],
  ])('%s', (_what, rule, where) => {
    expect(says.filter((line) => line.includes(rule) && line.includes(where))).not.toEqual([]);
  });
  test('and nothing else', () => {
    expect(says.join()).not.toContain('no-circles');
  });
});
