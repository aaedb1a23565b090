import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import WebSocket from 'ws';
import { maxCellFileBytes } from '@fadenkreuz/core';
import type { FastifyInstance } from 'fastify';
import { climateCell, until } from '../testBench.js';
import { Agent } from './agent.js';
import { heardLimitMs, type WireStatus } from './api.js';
import type { BenchStatus } from './benchStatus.js';
import { withNews, type LiveNews } from './live.js';
import { tsharkFields } from '../tshark.js';
import { agentServer } from './server.js';

const secret = 's'.repeat(32);
let agent: Agent;
let server: FastifyInstance;
let url: string;
beforeEach(async () => {
  agent = new Agent();
  server = await agentServer(agent, secret);
  url = await server.listen({ host: '127.0.0.1', port: 0 });
});
afterEach(async () => {
  await agent.stop();
  await server.close();
});

async function ask(method: string, path: string, body?: unknown, bearer = secret) {
  const response = await fetch(url + path, {
    method,
    headers: { authorization: `Bearer ${bearer}`, ...(body ? { 'content-type': 'application/json' } : {}) },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  return { status: response.status, body: (await response.json()) as BenchStatus & { code?: string } };
}
const startBench = () => ask('POST', '/bench', { cell: climateCell(), version: 1 });
const holder = 'test';
const heater = { device: 'u1', field: 'u1-cmd-heater', value: '1', holder };

describe('agent', () => {
  test('answers nobody without the secret', async () => {
    expect((await ask('GET', '/bench', undefined, 'x'.repeat(32))).status).toBe(401);
    const socket = new WebSocket(url.replace('http', 'ws') + '/live');
    await expect(new Promise((_, refuse) => socket.once('error', refuse))).rejects.toThrow(/401/);
  });

  test('which cell runs is told without all that is known of it', async () => {
    expect((await ask('GET', '/bench')).body).toEqual({ bench: null });
    await startBench();
    const runs = { cell: climateCell().id, version: 1, run: true };
    expect((await ask('GET', '/bench')).body).toEqual({ bench: runs });
  });

  test('takes the largest cell that can be made, which is several times its file here', async () => {
    const cell = { ...climateCell(), name: 'x'.repeat(2 * maxCellFileBytes) };
    const { status, body } = await ask('POST', '/bench', { cell, version: 1 });
    expect([status, body.code]).toEqual([409, 'input.invalid']);
  });

  test('records the traffic of the bench when asked, and keeps it until the next time', async () => {
    expect((await ask('GET', '/capture')).body.code).toBe('capture.nothing');
    expect((await ask('POST', '/capture')).body.code).toBe('bench.notRunning');
    await startBench();
    await until(() => agent.status().links[0]?.state === 'open');
    agent.inject('u1', { fault: 'busy' });
    expect((await ask('POST', '/capture')).body.recording).toMatchObject({ running: true, forgotten: 0 });
    await until(() => agent.status().recording!.packets > 40);
    agent.clear('u1', 'busy');
    const { packets } = agent.status().recording!;
    await until(() => agent.status().recording!.packets > packets + 10);
    expect((await ask('DELETE', '/bench')).body.recording?.running).toBe(false);

    const answer = await fetch(`${url}/capture`, { headers: { authorization: `Bearer ${secret}` } });
    const path = join(await mkdtemp(join(tmpdir(), 'fadenkreuz-')), 'agent.pcapng');
    await writeFile(path, Buffer.from(await answer.arrayBuffer()));
    expect(tsharkFields(path, 'frame', ['frame.number'])).toHaveLength(agent.status().recording!.packets);
    expect(tsharkFields(path, '_ws.malformed', ['frame.number'])).toEqual([]);
    const remarks = tsharkFields(path, 'frame.comment', ['frame.comment']).map((f) => f['frame.comment']);
    expect(remarks).toEqual([
      'climate_io_u1: injected before: be busy',
      'climate_io_u1: fault taken away: be busy',
    ]);
  });

  test('writes only while armed, and arming ends by itself', async () => {
    expect((await ask('POST', '/arm', { seconds: 1, holder })).body.code).toBe('bench.notRunning');
    await startBench();
    await until(() => agent.status().links[0]?.state === 'open');
    expect((await ask('POST', '/write', heater)).body.code).toBe('bench.notArmed');
    expect((await ask('POST', '/run', { run: false, holder })).body.code).toBe('bench.notArmed');
    expect((await ask('POST', '/arm', { seconds: 3, holder })).body.armedForMs).toBeGreaterThan(2000);
    expect((await ask('POST', '/write', heater)).status).toBe(200);
    await until(() => agent.status().armedForMs === 0);
    expect((await ask('POST', '/write', { ...heater, value: '0' })).body.code).toBe('bench.notArmed');
    await ask('POST', '/arm', { seconds: 60, holder });
    expect((await ask('DELETE', '/arm')).body.armedForMs).toBe(0);
  });

  test('Arm belongs to who armed: others are refused, and who falls silent loses it', async () => {
    await startBench();
    await until(() => agent.status().links[0]?.state === 'open');
    await ask('POST', '/arm', { seconds: 60, holder });
    expect(agent.status().armedBy).toBe(holder);
    for (const [path, body] of [
      ['/arm', { seconds: 60 }],
      ['/write', heater],
      ['/run', { run: false }],
      ['/here', {}],
      ['/wire/keep', { at: '127.99.40.71' }],
    ] as const)
      expect((await ask('POST', path, { ...body, holder: 'another' })).body.code).toBe('bench.armedByOther');
    await ask('POST', '/write', heater);
    // As long as it is heard it keeps the permission, well beyond the limit.
    let begun = performance.now();
    let heardAt = begun;
    while (performance.now() - begun < 1.5 * heardLimitMs) {
      expect((await ask('POST', '/here', { holder })).status).toBe(200);
      const now = performance.now();
      // A computer that halted this test for so long was rightly not heard: it begins anew.
      if (now - heardAt > heardLimitMs / 2) {
        await ask('POST', '/arm', { seconds: 60, holder });
        begun = now;
      } else expect(agent.status().armedForMs).toBeGreaterThan(0);
      heardAt = now;
    }
    const silentFrom = performance.now();
    await until(() => agent.status().armedForMs === 0);
    expect(performance.now() - silentFrom).toBeGreaterThan(heardLimitMs / 2);
    expect(agent.traceSince(0).at(-1)?.event).toMatchObject({
      what: 'disarmed',
      why: expect.stringContaining('not heard') as string,
    });
  });

  test('all to rest needs no Arm', async () => {
    await startBench();
    await until(() => agent.status().links[0]?.state === 'open');
    await ask('POST', '/arm', { seconds: 60, holder });
    await ask('POST', '/write', heater);
    await ask('DELETE', '/arm');
    const commanded = () => Buffer.from(agent.status().links[0]!.command, 'base64')[0];
    expect(commanded()).toBe(1);
    expect((await ask('POST', '/rest', {})).status).toBe(200);
    expect(commanded()).toBe(0);
  });

  test.each([
    ['POST', '/arm', { seconds: 0 }],
    ['POST', '/arm', { seconds: 100_000 }],
    ['POST', '/arm', { seconds: 'x', holder }],
    ['POST', '/arm', { seconds: 5 }],
    ['POST', '/run', { run: true }],
    ['POST', '/after', { link: 'u1-link', does: 'explode' }],
    ['POST', '/write', { device: 'u1' }],
    ['POST', '/bench', { cell: { id: 'x' }, version: 1 }],
    ['POST', '/bench', {}],
  ])('%s %s %j is refused with a message', async (method, path, body) => {
    const answer = await ask(method, path, body);
    expect(answer.status).toBe(409);
    expect(answer.body.code).toBe('input.invalid');
    expect(agent.status().bench).toBeNull();
  });

  test('one bench at a time; a stopped one can be started again', async () => {
    await startBench();
    expect((await startBench()).body.code).toBe('bench.alreadyRuns');
    expect((await ask('DELETE', '/bench')).body.bench).toBeNull();
    expect((await startBench()).body.bench).toEqual({ cell: 'test', version: 1, run: true });
  });

  test('a scan finds the bench; a device is given an address only while armed, and back to where it was', async () => {
    const wire = (method: string, path: string, body?: unknown) =>
      ask(method, `/wire${path}`, body) as unknown as Promise<{
        status: number;
        body: WireStatus & { code?: string; done?: string[] };
      }>;
    await startBench();
    await until(() => agent.status().links[0]?.state === 'open');
    const scan = { ranges: ['10.99.40.70-10.99.40.73'], ports: [502], planned: '10.99.40.1' };
    await wire('POST', '/scan', scan);
    await until(async () => !(await wire('GET', '')).body.scan!.running);
    const [found] = (await wire('GET', '')).body.scan!.found;
    expect(found).toMatchObject({ address: '10.99.40.71', addressFrom: 'stored' });
    const order = { at: found!.at, address: '10.99.40.72', mask: '255.255.255.0', gateway: null, holder };
    expect((await wire('POST', '/address', order)).body.code).toBe('bench.notArmed');
    expect((await wire('POST', '/keep', { at: found!.at, holder })).body.code).toBe('bench.notArmed');
    await ask('POST', '/arm', { seconds: 60, holder });
    expect((await wire('POST', '/address', order)).body.done).toHaveLength(4);
    // It has left its planned address, and the link is lost: that ends the permission.
    await until(() => agent.status().links[0]?.state !== 'open');
    await until(() => agent.status().armedForMs === 0);
    await ask('POST', '/arm', { seconds: 60, holder });
    const back = { ...order, at: '127.99.40.72', address: '10.99.40.71' };
    expect((await wire('POST', '/address', back)).status).toBe(200);
    await until(() => agent.status().links[0]?.state === 'open');
  });

  test.each([
    ['/wire/scan', { ranges: ['10.0.0.0/8'], ports: [], planned: '10.0.0.1' }, 'scan.tooWide'],
    ['/wire/scan', { ranges: ['here'], ports: [], planned: '10.0.0.1' }, 'scan.noRange'],
    ['/wire/scan', { ranges: [], ports: [], planned: '10.0.0.1' }, 'input.invalid'],
    ['/wire/address', { at: 'x' }, 'input.invalid'],
    ['/wire/assign', { minutes: 5, assignments: [{ mac: 'x' }], server: '10.0.0.1' }, 'input.invalid'],
  ])('%s %j is refused with %s', async (path, body, code) => {
    expect((await ask('POST', path, body)).body.code).toBe(code);
  });

  test('an older version of the design does not replace a newer one', async () => {
    await startBench();
    await ask('PUT', '/bench', { cell: climateCell(), version: 5 });
    await ask('PUT', '/bench', { cell: climateCell(), version: 3 });
    expect(agent.status().bench?.version).toBe(5);
  });

  test('listeners get the whole state at first, then what has changed, and have the state of the agent by it', async () => {
    await startBench();
    const socket = new WebSocket(url.replace('http', 'ws') + '/live', {
      headers: { authorization: `Bearer ${secret}` },
    });
    const news: LiveNews[] = [];
    socket.on('message', (data) => news.push(JSON.parse((data as Buffer).toString()) as LiveNews));
    const heard = () => news.reduce<BenchStatus | undefined>(withNews, undefined);
    await until(() => (heard()?.links[0]?.received ?? 0) > 50);
    expect(news[0]).toMatchObject({ whole: true, links: [{ device: 'u1' }] });
    expect(news.slice(1).every((n) => !n.whole)).toBe(true);
    await agent.arm(60, holder);
    agent.write({ ...heater, hold: false });
    await until(() => heard()?.links[0]?.command === agent.status().links[0]!.command);
    // Of a thousand bytes of a link, most stay as they are.
    const bytes = (n: LiveNews) => JSON.stringify(n).length;
    const [whole, ...later] = news as [LiveNews, ...LiveNews[]];
    expect(later.reduce((sum, n) => sum + bytes(n), 0) / later.length).toBeLessThan(bytes(whole) / 2);
    socket.terminate();
  });
});
