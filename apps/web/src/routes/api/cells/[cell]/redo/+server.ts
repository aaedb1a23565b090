import { StepRequest } from '../../../../../lib/api/changes.js';
import { answerChange } from '../../../../../lib/server/changeRequest.js';
import { redo } from '../../../../../lib/server/repository/changes.js';

export const POST = ({ params, request }) =>
  answerChange(request, params.cell, StepRequest, (db, change) => redo(db, params.cell, change));
