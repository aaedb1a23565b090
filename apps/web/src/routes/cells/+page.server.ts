import { pageData } from '../../lib/server/pageData.js';
import { personOf } from '../../lib/server/person.js';
import { cellLines, keptDays } from '../../lib/server/repository/cells.js';
import { getServices } from '../../lib/server/services.js';

export const load = ({ cookies }) =>
  pageData(async () => {
    const { db, agent } = getServices();
    const [cells, deleted] = await Promise.all([cellLines(db), cellLines(db, 'deleted')]);
    return { cells, deleted, keptDays, onBench: agent.last?.bench?.cell ?? null, person: personOf(cookies) };
  });
