import {
  exchangeCode,
  exchangeCodeFile,
  exchangeManual,
  exchangeManualFile,
  identifierOf,
  parameterCode,
  parameterCodeFile,
  Problem,
  signalList,
  signalListFile,
  structuredText,
  structuredTextFile,
  writeCellFile,
  type Cell,
} from '@fadenkreuz/core';
import { answer } from '../../../../../../lib/server/answer.js';
import { withDatabase } from '../../../../../../lib/server/database.js';
import { loadCell } from '../../../../../../lib/server/repository/cells.js';
import { getServices } from '../../../../../../lib/server/services.js';

const writers: Record<string, { type: string; name: (cell: Cell) => string; write: (cell: Cell) => string }> =
  {
    code: { type: 'text/plain; charset=utf-8', name: structuredTextFile, write: structuredText },
    parameters: { type: 'text/plain; charset=utf-8', name: parameterCodeFile, write: parameterCode },
    exchanges: { type: 'text/plain; charset=utf-8', name: exchangeCodeFile, write: exchangeCode },
    manual: { type: 'text/markdown; charset=utf-8', name: exchangeManualFile, write: exchangeManual },
    signals: { type: 'text/csv; charset=utf-8', name: signalListFile, write: signalList },
    cell: {
      type: 'application/json',
      name: (cell) => `${identifierOf(cell.name)}.cell.json`,
      write: writeCellFile,
    },
  };

export const GET = async ({ params }) => {
  const writer = Object.hasOwn(writers, params.file) ? writers[params.file] : undefined;
  try {
    if (!writer) throw new Problem('cell.unknown', { cell: `file ${params.file}` });
    const { cell } = await withDatabase(() => loadCell(getServices().db, params.cell));
    return new Response(writer.write(cell), {
      headers: {
        'content-type': writer.type,
        'content-disposition': `attachment; filename="${writer.name(cell)}"`,
      },
    });
  } catch (error) {
    return answer(() => Promise.reject(error as Error));
  }
};
