import { timingSafeEqual } from 'node:crypto';
import websocket from '@fastify/websocket';
import { maxCellFileBytes, parseInput, Problem } from '@fadenkreuz/core';
import fastify, { type FastifyInstance } from 'fastify';
import type { Agent } from './agent.js';
import { Arm, SetRun, StartBench, statusPerSecond, Write } from './api.js';

const same = (a: string, b: string) => {
  const [left, right] = [Buffer.from(a), Buffer.from(b)];
  return left.length === right.length && timingSafeEqual(left, right);
};

/** A listener that does not keep up is passed over until its buffer is empty again. */
const maxWaitingBytes = 1_000_000;

/** The agent's HTTP and WebSocket interface; every request carries the secret. */
export async function agentServer(agent: Agent, secret: string): Promise<FastifyInstance> {
  const server = fastify({ bodyLimit: maxCellFileBytes + 1024 });
  await server.register(websocket, { options: { maxPayload: 1024 } });

  server.addHook('onRequest', async (request, reply) => {
    if (!same(request.headers.authorization ?? '', `Bearer ${secret}`))
      await reply.code(401).send({ says: 'Wrong secret.' });
  });
  server.setErrorHandler(async (error, _request, reply) => {
    if (error instanceof Problem) return reply.code(409).send(error.report());
    const { statusCode = 500, message } = error as { statusCode?: number; message: string };
    return reply.code(statusCode).send({ says: message, cure: 'Look at the log of the agent.' });
  });

  server.get('/status', () => agent.status());
  server.post('/bench', async (request) => {
    const { cell, version } = parseInput(StartBench, request.body, 'bench');
    await agent.start(cell, version);
    return agent.status();
  });
  server.put('/bench', async (request) => {
    const { cell, version } = parseInput(StartBench, request.body, 'bench');
    await agent.update(cell, version);
    return agent.status();
  });
  server.delete('/bench', async () => {
    await agent.stop();
    return agent.status();
  });
  server.post('/arm', (request) => {
    agent.arm(parseInput(Arm, request.body, 'arm').seconds);
    return agent.status();
  });
  server.delete('/arm', () => {
    agent.disarm();
    return agent.status();
  });
  server.post('/run', (request) => {
    agent.setRun(parseInput(SetRun, request.body, 'run').run);
    return agent.status();
  });
  server.post('/write', (request) => {
    agent.write(parseInput(Write, request.body, 'write'));
    return agent.status();
  });

  server.get('/live', { websocket: true }, (socket) => {
    const timer = setInterval(() => {
      if (socket.bufferedAmount < maxWaitingBytes) socket.send(JSON.stringify(agent.status()));
    }, 1000 / statusPerSecond);
    socket.on('close', () => clearInterval(timer));
    socket.on('error', () => socket.terminate());
  });
  return server;
}
