import { deviceById, parameterTable } from '@fadenkreuz/core';
import { answer } from '../../../../../../../../lib/server/answer.js';
import { withDatabase } from '../../../../../../../../lib/server/database.js';
import { loadCell } from '../../../../../../../../lib/server/repository/cells.js';
import { getServices } from '../../../../../../../../lib/server/services.js';
import { tableFile } from '../../../../../../../../lib/server/files/tableFile.js';

/** The parameters of a device as a table: csv or xlsx. */
export const GET = async ({ params }) => {
  try {
    const { cell } = await withDatabase(() => loadCell(getServices().db, params.cell));
    const { name, description } = deviceById(cell, params.device);
    return await tableFile(params.file, `${name} parameters`, parameterTable(description.parameters));
  } catch (error) {
    return answer(() => Promise.reject(error as Error));
  }
};
