import { z } from 'zod';
import { Agent } from './agent.js';
import { WriteJournal } from '../parameters/writeJournal.js';
import { Reach } from '../wire/reach.js';
import { agentServer } from './server.js';

const settings = z
  .object({
    AGENT_PORT: z.coerce.number().int().min(0).max(65_535),
    AGENT_SECRET: z.string().min(32),
    /** Subnets of real devices, separated by commas. */
    AGENT_REACH: z.string().default(''),
    /** File in which writes to devices are kept until they have ended. */
    AGENT_JOURNAL: z.string().min(1).optional(),
  })
  .parse(process.env);

// A log that cannot be written, on a full disk, is no reason to end.
for (const log of [process.stdout, process.stderr]) log.on('error', () => undefined);

const agent = new Agent(
  new Reach(settings.AGENT_REACH.split(',').filter(Boolean)),
  settings.AGENT_JOURNAL === undefined ? undefined : new WriteJournal(settings.AGENT_JOURNAL),
);
const server = await agentServer(agent, settings.AGENT_SECRET);

async function end(): Promise<void> {
  await agent.stop();
  await agent.wire.stop();
  await server.close();
  process.exit(0);
}
process.on('SIGTERM', () => void end());
process.on('SIGINT', () => void end());
// The launcher holds the other end of this channel: without it nobody would ever stop the agent.
process.on('disconnect', () => void end());

await server.listen({ host: '127.0.0.1', port: settings.AGENT_PORT });
const address = server.server.address();
process.send?.({ ready: true, port: typeof address === 'object' ? address?.port : undefined });
