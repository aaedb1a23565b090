import { StepRequest } from '../../../../../lib/api/changes.js';
import { answerChange } from '../../../../../lib/server/changeRequest.js';
import { undo } from '../../../../../lib/server/repository/changes.js';

export const POST = ({ params, request }) =>
  answerChange(request, params.cell, StepRequest, (db, change) => undo(db, params.cell, change));
