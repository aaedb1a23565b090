import { fieldTable, imageById, imageTitle } from '@fadenkreuz/core';
import { answer } from '../../../../../../../lib/server/answer.js';
import { withDatabase } from '../../../../../../../lib/server/database.js';
import { loadCell } from '../../../../../../../lib/server/repository/cells.js';
import { getServices } from '../../../../../../../lib/server/services.js';
import { tableFile } from '../../../../../../../lib/server/files/tableFile.js';

/** The fields of an image as a table: csv or xlsx. */
export const GET = async ({ params }) => {
  try {
    const { cell } = await withDatabase(() => loadCell(getServices().db, params.cell));
    const { device, image } = imageById(cell, params.image);
    return await tableFile(params.file, imageTitle(device, image.direction), fieldTable(image));
  } catch (error) {
    return answer(() => Promise.reject(error as Error));
  }
};
