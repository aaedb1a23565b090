import { answer } from '../../../../../../lib/server/answer.js';
import { withDatabase } from '../../../../../../lib/server/database.js';
import {
  deleteSnapshot,
  loadSnapshot,
  snapshotHeads,
} from '../../../../../../lib/server/repository/snapshots.js';
import { getServices } from '../../../../../../lib/server/services.js';

export const GET = ({ params }) =>
  answer(() => withDatabase(() => loadSnapshot(getServices().db, params.cell, params.snapshot)));

/** Answers with the list that is left. */
export const DELETE = ({ params }) =>
  answer(() =>
    withDatabase(async () => {
      const { db } = getServices();
      await deleteSnapshot(db, params.cell, params.snapshot);
      return snapshotHeads(db, params.cell);
    }),
  );
