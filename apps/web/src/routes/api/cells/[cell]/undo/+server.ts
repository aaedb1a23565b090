import { answerChange, UndoRequest } from '$lib/server/changeRequest.js';
import { undo } from '$lib/server/repository/changes.js';

export const POST = ({ params, request }) =>
  answerChange(request, params.cell, UndoRequest, (db, change) => undo(db, params.cell, change));
