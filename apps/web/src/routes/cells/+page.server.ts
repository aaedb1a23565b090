import { pageData } from '../../lib/server/pageData.js';
import { cellLines } from '../../lib/server/repository/cells.js';
import { getServices } from '../../lib/server/services.js';

export const load = async () => ({ cells: await pageData(() => cellLines(getServices().db)) });
