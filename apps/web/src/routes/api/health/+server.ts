import { answer } from '../../../lib/server/answer.js';
import { getServices } from '../../../lib/server/services.js';

/** 200 when database and agent answer; the launcher waits for it. */
export const GET = () =>
  answer(async () => {
    const { db, agent } = getServices();
    await db.raw('select 1');
    await agent.runs();
    return { ready: true };
  });
