import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { writeWorkbook } from './writeWorkbook.js';
import { readFile } from './readFile.js';

const bytesOf = (text: string) => new TextEncoder().encode(text);
const ample = { patienceMs: 20_000, memoryMb: 768 };
/** Three million numbers: correct JSON, and no cell. */
const large = bytesOf(`[${'0,'.repeat(3_000_000)}0]`);

test('each kind of file is read in its process, and problems come back as they are', async () => {
  const rows = [
    ['name', 'type'],
    ['speed', 'INT'],
  ];
  expect(await readFile('workbook', writeWorkbook('speeds', rows))).toEqual(rows);
  const demo = readFileSync('demo/ripening-store-3.json');
  expect((await readFile('cell', demo)).devices).toHaveLength(11);
  const eds = readFileSync('demo/describers/murmel_px8.eds');
  expect((await readFile('describer', eds)).describer.source).toBe('eds');
  await expect(readFile('cell', bytesOf('{}'))).rejects.toMatchObject({ code: 'file.notACell' });
  await expect(readFile('workbook', bytesOf('PK'))).rejects.toMatchObject({ code: 'file.notAWorkbook' });
});

test('a file that takes too long is given up, and one that takes too much memory', async () => {
  await expect(readFile('cell', large, { ...ample, patienceMs: 5 })).rejects.toMatchObject({
    code: 'file.tookTooLong',
  });
  await expect(readFile('cell', large, { ...ample, memoryMb: 16 })).rejects.toMatchObject({
    code: 'file.tookTooMuch',
  });
});

test('a reader stays for the next file, and one that was ended is followed by another', async () => {
  const eds = readFileSync('demo/describers/murmel_px8.eds');
  const readers = () =>
    execFileSync('ps', ['-o', 'pid=,args=', '--ppid', String(process.pid)], { encoding: 'utf8' })
      .split('\n')
      .filter((line) => line.includes('fileReader.js'))
      .map((line) => Number.parseInt(line, 10));
  for (let i = 0; i < 3; i++) await readFile('describer', eds);
  const [reader, ...others] = readers();
  expect(others).toEqual([]);
  // One that stands still never answers, however fast or slow this machine is.
  process.kill(reader!, 'SIGSTOP');
  await expect(readFile('describer', eds, { ...ample, patienceMs: 50 })).rejects.toMatchObject({
    code: 'file.tookTooLong',
  });
  expect((await readFile('describer', eds)).describer.source).toBe('eds');
});

test('the server answers others meanwhile, and only two files are read at a time', async () => {
  let beats = 0;
  const clock = setInterval(() => (beats += 1), 5);
  const reading = Array.from({ length: 3 }, () => readFile('cell', large).catch((error: Error) => error));
  const answers = await Promise.all(reading);
  clearInterval(clock);
  expect(answers.every((a) => a instanceof Error && 'code' in a && a.code === 'file.notACell')).toBe(true);
  expect(beats).toBeGreaterThan(10);
});
