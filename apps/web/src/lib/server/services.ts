import { env } from '$env/dynamic/private';
import { z } from 'zod';
import { AgentLink } from './agentLink.js';
import { CellFeed } from './cellFeed.js';
import { openDatabase } from './database.js';
import { loadCell } from './repository/cells.js';
import { RunningBench } from './runningBench.js';

const Settings = z.object({
  DATABASE_URL: z.string().min(1),
  AGENT_PORT: z.coerce.number().int(),
  AGENT_SECRET: z.string().min(32),
});

function open() {
  const settings = Settings.parse(env);
  const db = openDatabase(settings.DATABASE_URL);
  const agent = new AgentLink(`127.0.0.1:${settings.AGENT_PORT}`, settings.AGENT_SECRET);
  const feed = new CellFeed(settings.DATABASE_URL);
  const bench = new RunningBench(agent, (cellId) => loadCell(db, cellId));
  return { db, agent, bench, feed };
}

export type Services = ReturnType<typeof open>;

let services: Services | undefined;

/** Database, agent, bench and cell feed of this server; opened when they are first asked for (never during a build). */
export const getServices = (): Services => (services ??= open());
