import { timingSafeEqual } from 'node:crypto';
import { Readable } from 'node:stream';
import websocket from '@fastify/websocket';
import { hexOf, maxCellFileBytes, parseInput, Problem } from '@fadenkreuz/core';
import fastify, { type FastifyInstance } from 'fastify';
import type { Agent } from './agent.js';
import { newsBetween, withNews } from './live.js';
import {
  AfterArmChoice,
  Arm,
  EditBench,
  FollowImages,
  Assign,
  Gone,
  Here,
  ClearFault,
  Command,
  ExchangeQuery,
  ForgetCut,
  HoldMove,
  MoveByHand,
  ReleaseExchange,
  RunExchange,
  CancelSeries,
  FramesQuery,
  IdentityQuery,
  ParametersQuery,
  ReadParameters,
  SeriesQuery,
  SetAddress,
  SetRun,
  StartBench,
  StartScan,
  statusPerSecond,
  StopAsking,
  InjectFault,
  SetSeen,
  SetMet,
  SetSide,
  TraceQuery,
  WatchParameters,
  Write,
  WriteBytes,
  WriteParameters,
  type BenchStatus,
} from './api.js';

const same = (a: string, b: string) => {
  const [left, right] = [Buffer.from(a), Buffer.from(b)];
  return left.length === right.length && timingSafeEqual(left, right);
};

/** Figures of people are told with every so many looks. */
const figuresEvery = 5;
/** A listener that does not keep up is passed over until its buffer is empty again. */
const maxWaitingBytes = 1_000_000;

/** A cell takes several times more here than in its file, where what says nothing is left out. */
const mostBody = 8 * maxCellFileBytes;

/** The agent's HTTP and WebSocket interface; every request carries the secret. */
export async function agentServer(agent: Agent, secret: string): Promise<FastifyInstance> {
  const server = fastify({ bodyLimit: mostBody });
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

  // Little, for those who ask every second whether the agent lives.
  server.get('/bench', () => ({ bench: agent.runs }));
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
  server.post('/bench/edit', async (request) => {
    await agent.edit(parseInput(EditBench, request.body, 'edit'));
    return {};
  });
  server.delete('/bench', async () => {
    await agent.stop();
    return agent.status();
  });
  server.post('/arm', async (request) => {
    const { seconds, holder } = parseInput(Arm, request.body, 'arm');
    await agent.arm(seconds, holder);
    return agent.status();
  });
  server.post('/here', (request) => {
    agent.heard(parseInput(Here, request.body, 'holder').holder);
    return {};
  });
  server.post('/rest', () => {
    agent.rest();
    return agent.status();
  });
  server.post('/after', (request) => {
    agent.setAfterArm(parseInput(AfterArmChoice, request.body, 'after Arm'));
    return agent.status();
  });
  server.delete('/arm', () => {
    agent.disarm('somebody disarmed');
    return agent.status();
  });
  server.post('/gone', (request) => {
    agent.gone(parseInput(Gone, request.body, 'browser').holder);
    return agent.status();
  });
  server.post('/inject', (request) => {
    const { device, fault } = parseInput(InjectFault, request.body, 'fault');
    agent.inject(device, fault);
    return agent.status();
  });
  server.post('/seen', (request) => {
    const { device, lights } = parseInput(SetSeen, request.body, 'lights');
    agent.setSeen(device, lights);
    return agent.status();
  });
  server.post('/side', (request) => {
    const { device, field, value } = parseInput(SetSide, request.body, 'value');
    agent.setSide(device, field, value);
    return agent.status();
  });
  server.post('/clear', (request) => {
    const { device, key } = parseInput(ClearFault, request.body, 'fault');
    agent.clear(device, key);
    return agent.status();
  });
  server.get('/trace', (request) => agent.traceSince(parseInput(TraceQuery, request.query, 'trace').since));
  server.post('/images', (request) => {
    const { links, since } = parseInput(FollowImages, request.body, 'images');
    return agent.followImages(links, since);
  });
  server.post('/capture', () => {
    agent.startRecording();
    return agent.status();
  });
  server.delete('/capture', () => {
    agent.stopRecording();
    return agent.status();
  });
  server.get('/capture', (_request, reply) =>
    reply.type('application/octet-stream').send(Readable.from(agent.recorded())),
  );
  server.post('/run', (request) => {
    const { run, holder } = parseInput(SetRun, request.body, 'run');
    agent.setRun(run, holder);
    return agent.status();
  });
  server.post('/write', (request) => {
    agent.write(parseInput(Write, request.body, 'write'));
    return agent.status();
  });

  server.post('/command', (request) => {
    agent.command(parseInput(Command, request.body, 'command'));
    return agent.status();
  });
  server.post('/run-exchange', (request) => {
    agent.runExchange(parseInput(RunExchange, request.body, 'exchange'));
    return agent.status();
  });
  server.post('/release-exchange', (request) => {
    const { exchange, holder } = parseInput(ReleaseExchange, request.body, 'exchange');
    agent.releaseExchange(exchange, holder);
    return agent.status();
  });
  server.post('/stop-exchange', (request) => {
    agent.stopExchange(parseInput(ExchangeQuery, request.body, 'exchange').exchange);
    return agent.status();
  });
  server.get('/exchange', (request) => ({
    story: agent.exchangeStory(parseInput(ExchangeQuery, request.query, 'exchange').exchange),
  }));
  server.post('/move', (request) => {
    agent.moveByHand(parseInput(MoveByHand, request.body, 'move'));
    return {};
  });
  // Several times a second: it answers with nothing.
  server.post('/hold', (request) => {
    const { device, holder } = parseInput(HoldMove, request.body, 'hold');
    agent.holdMove(device, holder);
    return {};
  });
  server.post('/let-go', (request) => {
    agent.letGoMove(parseInput(HoldMove, request.body, 'hold').device);
    return {};
  });
  server.post('/met', (request) => {
    const { device, quantity, value } = parseInput(SetMet, request.body, 'quantity');
    agent.setMet(device, quantity, value);
    return agent.status();
  });
  server.post('/bytes', (request) => {
    agent.writeBytes(parseInput(WriteBytes, request.body, 'bytes'));
    return agent.status();
  });

  server.get('/parameters', (request) =>
    agent.parameters.since(parseInput(ParametersQuery, request.query, 'parameters').since),
  );
  server.post('/parameters/forget-cut', (request) => {
    agent.forgetCut(parseInput(ForgetCut, request.body, 'series').series);
    return {};
  });
  server.post('/parameters/read', (request) =>
    agent.parameters.read(parseInput(ReadParameters, request.body, 'parameters').devices),
  );
  server.post('/parameters/write', (request) =>
    agent.writeParameters(parseInput(WriteParameters, request.body, 'parameters')),
  );
  server.post('/parameters/cancel', (request) => {
    agent.parameters.cancel(parseInput(CancelSeries, request.body, 'series').series);
    return {};
  });
  server.get('/parameters/identity', async (request) => ({
    found: await agent.identityOf(parseInput(IdentityQuery, request.query, 'device').device),
  }));
  server.post('/parameters/list', async (request) => ({
    parameters: await agent.parametersListedBy(parseInput(IdentityQuery, request.body, 'device').device),
  }));
  server.get('/parameters/frames', (request) => {
    const { device, parameter } = parseInput(FramesQuery, request.query, 'frames');
    const frames = agent.parameters.framesOf(device, parameter);
    return { frames: frames.map(({ answer, bytes }) => ({ answer, bytes: hexOf(bytes) })) };
  });
  server.get('/parameters/series', (request) => ({
    lines: agent.parameters.linesOf(parseInput(SeriesQuery, request.query, 'series').series) ?? [],
  }));
  server.post('/parameters/watch', (request) => {
    agent.parameters.watch(parseInput(WatchParameters, request.body, 'watch list').watched);
    return {};
  });

  server.get('/wire', () => agent.wire.status);
  server.post('/wire/scan', (request) => {
    agent.wire.startScan(parseInput(StartScan, request.body, 'scan'));
    return agent.wire.status;
  });
  server.delete('/wire/scan', () => {
    agent.wire.stopScan();
    return agent.wire.status;
  });
  server.post('/wire/address', async (request) => ({
    done: await agent.setAddress(parseInput(SetAddress, request.body, 'address')),
  }));
  server.post('/wire/keep', async (request) => {
    const { at, holder } = parseInput(StopAsking, request.body, 'address');
    await agent.stopAsking(at, holder);
    return agent.wire.status;
  });
  server.post('/wire/assign', async (request) => {
    await agent.wire.assign(parseInput(Assign, request.body, 'addresses to give'));
    return agent.wire.status;
  });
  server.delete('/wire/assign', async () => {
    await agent.wire.stopAssigning();
    return agent.wire.status;
  });

  let listeners = 0;
  server.get('/live', { websocket: true }, (socket) => {
    let told: BenchStatus | undefined;
    let turn = 0;
    const timer = setInterval(() => {
      if (socket.bufferedAmount >= maxWaitingBytes) return;
      turn += 1;
      const news = newsBetween(told, agent.status(), turn % figuresEvery === 0);
      if (!news) return;
      told = withNews(told, news);
      socket.send(JSON.stringify(news));
    }, 1000 / statusPerSecond);
    listeners += 1;
    socket.on('close', () => {
      clearInterval(timer);
      listeners -= 1;
      // Without the web server nobody sees what a write does.
      if (listeners === 0) agent.disarm('nobody watches any more');
    });
    socket.on('error', () => socket.terminate());
  });
  return server;
}
