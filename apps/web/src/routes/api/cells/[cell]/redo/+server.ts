import { answerChange, UndoRequest } from '$lib/server/changeRequest.js';
import { redo } from '$lib/server/repository/changes.js';

export const POST = ({ params, request }) =>
  answerChange(request, params.cell, UndoRequest, (db, change) => redo(db, params.cell, change));
